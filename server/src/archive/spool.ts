import { closeSync, openSync, readSync, rmdirSync, unlinkSync, writeSync } from "node:fs";
import path from "node:path";
import { temporaryFolder } from "../process/temporary";

/**
 * Things laid down one after the other, to be gone through again any number of times without holding them in memory. The file has
 * no name any more once it is open: nothing is left of it, however the program ends. Reads and writes at once, so it is for threads
 * that keep nobody waiting.
 */
export class Spool<Item> implements Iterable<Item> {
  private readonly lengths: number[] = [];
  private waiting: Buffer[] = [];
  private waitingBytes = 0;
  private written = 0;

  private constructor(private readonly descriptor: number) {}

  static async open<Item>(): Promise<Spool<Item>> {
    const folder = await temporaryFolder();
    const file = path.join(folder, "spool");
    const descriptor = openSync(file, "wx+", 0o600);
    unlinkSync(file);
    rmdirSync(folder);
    return new Spool<Item>(descriptor);
  }

  /** @param item plain data: it comes back as JSON gives it */
  add(item: Item): void {
    const bytes = Buffer.from(JSON.stringify(item));
    this.lengths.push(bytes.length);
    this.waiting.push(bytes);
    this.waitingBytes += bytes.length;
    if (this.waitingBytes >= AT_ONCE_BYTES) this.write();
  }

  private write(): void {
    const all = Buffer.concat(this.waiting);
    this.waiting = [];
    this.waitingBytes = 0;
    for (let done = 0; done < all.length;)
      done += writeSync(this.descriptor, all, done, all.length - done, this.written + done);
    this.written += all.length;
  }

  *[Symbol.iterator](): Generator<Item> {
    this.write();
    let from = 0;
    let block: Buffer = Buffer.alloc(0);
    let blockFrom = 0;
    for (const length of this.lengths) {
      if (from + length > blockFrom + block.length) {
        block = this.read(from, Math.max(AT_ONCE_BYTES, length));
        blockFrom = from;
      }
      yield JSON.parse(block.toString("utf8", from - blockFrom, from - blockFrom + length)) as Item;
      from += length;
    }
  }

  private read(from: number, most: number): Buffer {
    const block = Buffer.allocUnsafe(Math.min(most, this.written - from));
    for (let done = 0; done < block.length;) {
      const bytes = readSync(this.descriptor, block, done, block.length - done, from + done);
      if (bytes === 0) throw new Error("what was laid down is cut off");
      done += bytes;
    }
    return block;
  }

  close(): void {
    closeSync(this.descriptor);
  }
}

const AT_ONCE_BYTES = 1024 * 1024;
