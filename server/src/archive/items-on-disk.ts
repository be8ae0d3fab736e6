import { readSync, writeSync } from "node:fs";
import type { FileHandle } from "node:fs/promises";
import { openNameless } from "../process/temporary";

/**
 * Items laid down one after the other, to be gone through any number of times without holding them in memory. Reads and writes
 * while its thread waits, so it is for threads that keep nobody else waiting.
 */
export class ItemsOnDisk<Item> implements Iterable<Item> {
  private readonly lengths: number[] = [];
  private waiting: Buffer[] = [];
  private waitingBytes = 0;
  private written = 0;

  private constructor(private readonly file: FileHandle) {}

  static async open<Item>(): Promise<ItemsOnDisk<Item>> {
    return new ItemsOnDisk<Item>(await openNameless());
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
      done += writeSync(this.file.fd, all, done, all.length - done, this.written + done);
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
      const bytes = readSync(this.file.fd, block, done, block.length - done, from + done);
      if (bytes === 0) throw new Error("what was laid down is cut off");
      done += bytes;
    }
    return block;
  }

  close(): Promise<void> {
    return this.file.close();
  }
}

const AT_ONCE_BYTES = 1024 * 1024;
