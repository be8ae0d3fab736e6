import { readSync } from "node:fs";

const WINDOW = 64 * 1024;
/** More than a track has tables that are read side by side. */
const WINDOWS_MOST = 8;

/**
 * Bytes in memory, or in a file that is read a window at a time: a clip is told apart without being held whole. Numbers are
 * big-endian. What would be read beyond the end throws a RangeError.
 */
export class Source {
  /** What was read of it: tables of a clip are read side by side, and each goes on where it was. */
  private readonly windows: { from: number; bytes: Buffer }[] = [];
  private last: { from: number; bytes: Buffer };
  private oldest = 0;

  private constructor(
    readonly length: number,
    private readonly fill: (from: number) => Buffer,
  ) {
    this.last = { from: 0, bytes: fill(0) };
    this.windows.push(this.last);
  }

  static of(bytes: Buffer): Source {
    return new Source(bytes.length, () => bytes);
  }

  /** @param file an open file's number; @param length so many bytes of it */
  static ofFile(file: number, length: number): Source {
    return new Source(length, (from) => {
      const window = Buffer.allocUnsafe(WINDOW);
      return window.subarray(0, readSync(file, window, 0, WINDOW, from));
    });
  }

  u8(at: number): number {
    return this.whole(at, 1);
  }

  u16(at: number): number {
    return this.whole(at, 2);
  }

  u32(at: number): number {
    return this.whole(at, 4);
  }

  i32(at: number): number {
    return this.whole(at, 4) | 0;
  }

  u64(at: number): number {
    return this.whole(at, 4) * 2 ** 32 + this.whole(at + 4, 4);
  }

  /** Four letters, as boxes are named by. */
  name(at: number): string {
    const place = this.place(at, 4);
    return this.last.bytes.toString("latin1", place, place + 4);
  }

  private whole(at: number, bytes: number): number {
    const place = this.place(at, bytes);
    return this.last.bytes.readUIntBE(place, bytes);
  }

  /** Where in the last window a few bytes lie; it may be another one than before. */
  private place(at: number, bytes: number): number {
    if (at < 0 || at + bytes > this.length) throw new RangeError("cut off");
    const holds = ({ from, bytes: window }: { from: number; bytes: Buffer }): boolean =>
      at >= from && at + bytes <= from + window.length;
    if (!holds(this.last)) this.last = this.windows.find(holds) ?? this.read(at);
    return at - this.last.from;
  }

  private read(from: number): { from: number; bytes: Buffer } {
    const window = { from, bytes: this.fill(from) };
    if (this.windows.length < WINDOWS_MOST) this.windows.push(window);
    else {
      this.windows[this.oldest] = window;
      this.oldest = (this.oldest + 1) % WINDOWS_MOST;
    }
    return window;
  }
}
