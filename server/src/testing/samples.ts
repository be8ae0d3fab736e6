import { deflateRawSync, crc32 as nodeCrc } from "node:zlib";

/** Small files for tests, made by hand: what a phone or a stranger might send. */

const marker = (code: number, body: Buffer): Buffer => {
  const head = Buffer.from([0xff, code, 0, 0]);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
};

/** A JPEG of one grey pixel block (baseline), with a position in its hidden data, a comment, and another file after its end. */
export function jpegWithPosition(secret = "N52.1 W8.6"): Buffer {
  const quantities = Buffer.concat([Buffer.from([0]), Buffer.alloc(64, 1)]);
  const frame = Buffer.from([8, 0, 8, 0, 8, 1, 1, 0x11, 0]);
  // One code of one bit for each table (ITU T.81, annex C).
  const codes = (kind: number): Buffer => Buffer.concat([Buffer.from([kind, 1]), Buffer.alloc(15), Buffer.from([0])]);
  return Buffer.concat([
    Buffer.from([0xff, 0xd8]),
    marker(0xe0, Buffer.from("JFIF\0\x01\x01\0\0\x01\0\x01\0\0", "latin1")),
    // A small picture in an extension of JFIF's own (JFIF 1.02).
    marker(0xe0, Buffer.from(`JFXX\0\x10${secret}`, "latin1")),
    marker(0xe1, Buffer.from(`Exif\0\0${secret}`, "latin1")),
    marker(0xfe, Buffer.from(secret, "latin1")),
    marker(0xdb, quantities),
    marker(0xc0, frame),
    marker(0xc4, codes(0)),
    marker(0xc4, codes(0x10)),
    marker(0xda, Buffer.from([1, 1, 0, 0, 63, 0])),
    Buffer.from([0x3f, 0xff, 0x00, 0xff, 0xd0, 0x3f]),
    Buffer.from([0xff, 0xd9]),
    Buffer.from(secret, "latin1"),
  ]);
}

const crc32 = (bytes: Buffer): number => (nodeCrc as unknown as (data: Buffer) => number)(bytes);

const pngChunk = (type: string, body: Buffer): Buffer => {
  const named = Buffer.concat([Buffer.from(type, "latin1"), body]);
  const chunk = Buffer.alloc(8);
  chunk.writeUInt32BE(body.length, 0);
  chunk.writeUInt32BE(crc32(named), 4);
  return Buffer.concat([chunk.subarray(0, 4), named, chunk.subarray(4)]);
};

/** A PNG that says it has so many pixels, with a text that names a place. */
export function pngOf(width: number, height: number, secret = "N52.1 W8.6"): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 0, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    pngChunk("IHDR", head),
    pngChunk("tEXt", Buffer.from(`Location\0${secret}`, "latin1")),
    pngChunk("eXIf", Buffer.from(secret, "latin1")),
    pngChunk("IDAT", Buffer.from([0x78, 0x9c, 0x63, 0x60, 0, 0, 0, 2, 0, 1])),
    pngChunk("IEND", Buffer.alloc(0)),
    Buffer.from(secret, "latin1"),
  ]);
}

const webpChunk = (type: string, body: Buffer): Buffer => {
  const head = Buffer.alloc(8);
  head.write(type, 0, "latin1");
  head.writeUInt32LE(body.length, 4);
  return Buffer.concat([head, body, Buffer.alloc(body.length % 2)]);
};

/** A WebP container of 8 by 8 with EXIF and XMP. */
export function webpWithPosition(secret = "N52.1 W8.6"): Buffer {
  const extended = Buffer.from([0x0c, 0, 0, 0, 7, 0, 0, 7, 0, 0]);
  const body = Buffer.concat([
    Buffer.from("WEBP", "latin1"),
    webpChunk("VP8X", extended),
    webpChunk("VP8L", Buffer.from([0x2f, 7, 0, 0x0c, 0, 0])),
    webpChunk("EXIF", Buffer.from(secret, "latin1")),
    webpChunk("XMP ", Buffer.from(secret, "latin1")),
  ]);
  const head = Buffer.alloc(8);
  head.write("RIFF", 0, "latin1");
  head.writeUInt32LE(body.length, 4);
  return Buffer.concat([head, body]);
}

const box = (type: string, ...parts: Buffer[]): Buffer => {
  const body = Buffer.concat(parts);
  const head = Buffer.alloc(8);
  head.writeUInt32BE(body.length + 8, 0);
  head.write(type, 4, "latin1");
  return Buffer.concat([head, body]);
};
const handler = (kind: string): Buffer => box("hdlr", Buffer.alloc(8), Buffer.from(kind, "latin1"), Buffer.alloc(13));

const numbers = (...values: number[]): Buffer => {
  const bytes = Buffer.alloc(values.length * 4);
  values.forEach((value, index) => bytes.writeUInt32BE(value, index * 4));
  return bytes;
};

/** A track of one sample at a place of the file (ISO/IEC 14496-12, 8.7). */
const track = (id: number, kind: string, at: number, length: number, ...more: Buffer[]): Buffer =>
  box(
    "trak",
    box("tkhd", numbers(0, 0, 0, id), Buffer.alloc(68)),
    box(
      "mdia",
      handler(kind),
      box(
        "minf",
        box(
          "stbl",
          box("stsz", numbers(0, 0, 1, length)),
          box("stsc", numbers(0, 1, 1, 1, 1)),
          box("stco", numbers(0, 1, at)),
        ),
        ...more,
      ),
    ),
  );

/**
 * The bones of an MP4 clip, with a position in its user data, in a track of its own, in that track's samples and between the
 * samples of the others.
 */
export function clipWithPosition(secret = "N52.1 W8.6", brand = "isom", mediaBytes = 64): Buffer {
  const hidden = Buffer.from(secret, "latin1");
  const seen = Buffer.alloc(mediaBytes, 7);
  const clip = (at: number): Buffer =>
    Buffer.concat([
      box("ftyp", Buffer.from(`${brand}\0\0\0\0`, "latin1")),
      box(
        "moov",
        box("mvhd", Buffer.alloc(100)),
        track(1, brand === "M4A " ? "soun" : "vide", at + hidden.length, seen.length),
        track(2, "meta", at, hidden.length, hidden),
        box("udta", box("\xa9xyz", hidden)),
      ),
      box("mdat", hidden, seen, hidden),
      box("uuid", hidden),
    ]);
  // Where the samples lie does not change how long anything is.
  return clip(clip(0).indexOf("mdat") + 4);
}

/** The same in fragments, as a browser records it (ISO/IEC 14496-12, 8.8): each with a hidden run between two that are seen. */
export function fragmentsWithPosition(secret = "N52.1 W8.6", fragments = 3): Buffer {
  const hidden = Buffer.from(secret, "latin1");
  const seen = Buffer.alloc(40, 7);
  const run = (at: number, ...sizes: number[]): Buffer => box("trun", numbers(0x201, sizes.length, at, ...sizes));
  const fragment = (): Buffer => {
    const moof = (from: number): Buffer =>
      box(
        "moof",
        box("mfhd", numbers(0, 1)),
        box(
          "traf",
          box("tfhd", numbers(0x20000, 1)),
          run(from, seen.length / 2, seen.length / 2),
          run(from + 40 + hidden.length, seen.length),
        ),
        box("traf", box("tfhd", numbers(0x20000, 2)), run(from + 40, hidden.length)),
      );
    return Buffer.concat([moof(moof(0).length + 8), box("mdat", seen, hidden, seen)]);
  };
  const none = (id: number, kind: string): Buffer => track(id, kind, 0, 0);
  return Buffer.concat([
    box("ftyp", Buffer.from("iso5\0\0\0\0", "latin1")),
    box(
      "moov",
      box("mvhd", Buffer.alloc(100)),
      none(1, "vide"),
      none(2, "meta"),
      box("mvex", box("trex", numbers(0, 1, 1, 0, 0, 0))),
    ),
    ...Array.from({ length: fragments }, fragment),
  ]);
}

/** The bones of a WebM voice note as a phone's recorder writes it (RFC 9559), with a position among its tags. */
export function voiceWithPosition(secret = "N52.1 W8.6", codec = "A_OPUS"): Buffer {
  const element = (id: number[], content: Buffer): Buffer =>
    Buffer.concat([Buffer.from([...id, 0x40 | (content.length >> 8), content.length & 0xff]), content]);
  return Buffer.concat([
    element([0x1a, 0x45, 0xdf, 0xa3], element([0x42, 0x82], Buffer.from("webm"))),
    // A segment of unknown length, as one that is written while it is spoken.
    Buffer.from([0x18, 0x53, 0x80, 0x67, 0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff]),
    element([0x16, 0x54, 0xae, 0x6b], element([0xae], element([0x86], Buffer.from(codec)))),
    element([0x12, 0x54, 0xc3, 0x67], element([0x73, 0x73], Buffer.from(secret, "latin1"))),
    element([0x1f, 0x43, 0xb6, 0x75], Buffer.alloc(48, 7)),
  ]);
}

export interface ZipPart {
  name: string;
  content: Buffer;
  /** Upper half: how UNIX marks a file, a link. */
  mode?: number;
  /** What the zip says the unpacked size is. */
  saysSize?: number;
}

/** A zip as an attacker would write it: names and sizes are not checked (APPNOTE.TXT 6.3, sections 4.3.7, 4.3.12, 4.3.16). */
export function zipOf(parts: readonly ZipPart[]): Buffer {
  const locals: Buffer[] = [];
  const central: Buffer[] = [];
  let offset = 0;
  for (const { name, content, mode = 0o100644, saysSize } of parts) {
    const packed = deflateRawSync(content);
    const title = Buffer.from(name);
    const fields = Buffer.alloc(26);
    fields.writeUInt16LE(20, 0);
    fields.writeUInt16LE(0x800, 2);
    fields.writeUInt16LE(8, 4);
    fields.writeUInt32LE(crc32(content), 10);
    fields.writeUInt32LE(packed.length, 14);
    fields.writeUInt32LE(saysSize ?? content.length, 18);
    fields.writeUInt16LE(title.length, 22);
    const local = Buffer.concat([Buffer.from("PK\x03\x04", "latin1"), fields, title, packed]);
    const outside = Buffer.alloc(14);
    outside.writeUInt32LE((mode << 16) >>> 0, 6);
    outside.writeUInt32LE(offset, 10);
    central.push(Buffer.concat([Buffer.from("PK\x01\x02\x14\x03", "latin1"), fields, outside, title]));
    locals.push(local);
    offset += local.length;
  }
  const directory = Buffer.concat(central);
  const end = Buffer.alloc(22);
  end.write("PK\x05\x06", 0, "latin1");
  end.writeUInt16LE(Math.min(parts.length, 0xffff), 8);
  end.writeUInt16LE(Math.min(parts.length, 0xffff), 10);
  end.writeUInt32LE(directory.length, 12);
  end.writeUInt32LE(offset, 16);
  return Buffer.concat([...locals, directory, end]);
}
