import { readSync } from "node:fs";

const WINDOW = 64 * 1024;

/**
 * Bytes in memory, or in a file that is read a window at a time: a clip is told apart without being held whole. Numbers are
 * big-endian. What would be read beyond the end throws a RangeError.
 */
export class Source {
  private window: Buffer;
  private from = 0;

  private constructor(
    readonly length: number,
    private readonly fill: (from: number) => Buffer,
  ) {
    this.window = fill(0);
  }

  static of(bytes: Buffer): Source {
    return new Source(bytes.length, () => bytes);
  }

  /** @param file an open file's number; @param length so many bytes of it */
  static ofFile(file: number, length: number): Source {
    const window = Buffer.alloc(WINDOW);
    return new Source(length, (from) => window.subarray(0, readSync(file, window, 0, WINDOW, from)));
  }

  u8(at: number): number {
    return this.window.readUInt8(this.place(at, 1));
  }

  u16(at: number): number {
    return this.window.readUInt16BE(this.place(at, 2));
  }

  u32(at: number): number {
    return this.window.readUInt32BE(this.place(at, 4));
  }

  i32(at: number): number {
    return this.window.readInt32BE(this.place(at, 4));
  }

  u64(at: number): number {
    return Number(this.window.readBigUInt64BE(this.place(at, 8)));
  }

  /** Four letters, as boxes are named by. */
  name(at: number): string {
    const place = this.place(at, 4);
    return this.window.toString("latin1", place, place + 4);
  }

  /** Where in the window a few bytes lie. */
  private place(at: number, bytes: number): number {
    if (at < 0 || at + bytes > this.length) throw new RangeError("cut off");
    if (at < this.from || at + bytes > this.from + this.window.length) {
      this.window = this.fill(at);
      this.from = at;
    }
    return at - this.from;
  }
}
