import { randomBytes } from "node:crypto";
import { describe, expect, it } from "vitest";
import { openNameless } from "../process/temporary";
import { clipWithPosition } from "../testing/samples";
import { cleanedBytes, cleanedClip } from "./cleaned";
import { kindOf } from "./kind";
import { Source } from "./source";

async function inFile<Result>(
  bytes: Buffer,
  work: (file: Awaited<ReturnType<typeof openNameless>>) => Promise<Result>,
) {
  const file = await openNameless();
  try {
    await file.appendFile(bytes);
    return await work(file);
  } finally {
    await file.close();
  }
}

describe("bytes in a file", () => {
  it("are those in memory, wherever they are read, forwards, backwards and across windows", async () => {
    const bytes = randomBytes(700_000);
    await inFile(bytes, async ({ fd }) => {
      const [memory, file] = [Source.of(bytes), Source.ofFile(fd, bytes.length)];
      // Steps of a prime through all of it: no two after each other lie in one window.
      for (let n = 0, at = 0; n < 5000; n += 1, at = (at + 411_119) % (bytes.length - 8)) {
        const read = (from: Source): unknown[] => [
          from.u8(at),
          from.u16(at),
          from.i32(at),
          from.u32(at),
          from.u64(at),
          from.name(at),
        ];
        expect(read(file)).toEqual(read(memory));
      }
      for (const one of [memory, file])
        for (const at of [-1, bytes.length - 3, bytes.length]) expect(() => one.u32(at)).toThrow(RangeError);
    });
  });

  it("of a clip are cleared as in memory, with its tables far from its beginning", async () => {
    const clip = clipWithPosition("N52.1 W8.6", "isom", 3_000_000);
    const begin = clip.readUInt32BE(0);
    const free = Buffer.alloc(200_000);
    free.writeUInt32BE(free.length, 0);
    free.write("free", 4, "latin1");
    const far = Buffer.concat([clip.subarray(0, begin), free, clip.subarray(begin)]);
    for (const bytes of [clip, far]) {
      const kind = kindOf(bytes);
      if (!kind) throw new Error("no clip");
      const held = cleanedBytes(bytes, kind);
      await inFile(bytes, async (file) => {
        const laid = await cleanedClip(file, bytes.length);
        expect(laid?.sha256).toBe(held?.sha256);
        expect(await laid?.sha256Before()).toBe(await held?.sha256Before());
      });
    }
  });
});
