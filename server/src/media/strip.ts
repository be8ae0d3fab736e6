import type { MediaKind } from "./kind";
import { clearIn, clearingsOf } from "./clearings";
import { Source } from "./source";

/** Counted up when more is taken out than before: what was stored before is gone through once more. */
export const STRIPPED = 2;

/**
 * Takes out of a photo, clip or voice note what says where and with what it was made. Pixels and sound stay as they are.
 *
 * @param like what the former build left in, to tell whether a file it stored is the same
 * @returns null where the file is cut off or damaged
 */
export function strip(bytes: Buffer, kind: MediaKind, like: "now" | "before" = "now"): Buffer | null {
  try {
    switch (kind.contentType) {
      case "image/jpeg":
        return stripJpeg(bytes, like === "now");
      case "image/png":
        return stripPng(bytes);
      case "image/webp":
        return stripWebp(bytes);
      case "video/mp4":
      case "video/quicktime":
      case "audio/mp4":
        return stripClip(bytes, like === "now");
      case "audio/webm":
        return stripVoice(bytes);
      default:
        return kind.contentType satisfies never;
    }
  } catch {
    return null;
  }
}

const SOI = 0xd8;
const EOI = 0xd9;
const SOS = 0xda;
const APP0 = 0xe0;
const APP2_COLOUR = 0xe2;
const APP14_ADOBE = 0xee;
const COMMENT = 0xfe;

/**
 * ISO/IEC 10918-1, annex B. Application segments go, but for those that say how colours are meant (JFIF, ICC, Adobe);
 * comments go; what follows the end of the picture goes.
 */
function stripJpeg(bytes: Buffer, isSmallPictureOut: boolean): Buffer {
  const kept: Buffer[] = [bytes.subarray(0, 2)];
  let at = 2;
  for (;;) {
    if (bytes[at] !== 0xff) throw new RangeError("a marker was expected");
    while (bytes[at + 1] === 0xff) at += 1;
    const marker = byteAt(bytes, at + 1);
    if (marker === EOI) {
      kept.push(bytes.subarray(at, at + 2));
      return Buffer.concat(kept);
    }
    if (marker === SOI) throw new RangeError("a picture within the picture");
    const end = at + 2 + bytes.readUInt16BE(at + 2);
    if (end > bytes.length) throw new RangeError("cut off");
    const isHidden =
      (marker > APP0 && marker <= 0xef && marker !== APP14_ADOBE && !isColourProfile(bytes, at, marker)) ||
      marker === COMMENT;
    let until = end;
    if (marker === SOS) until = endOfScan(bytes, end);
    if (marker === APP0 && isSmallPictureOut) kept.push(...withoutSmallPicture(bytes, at, end));
    else if (!isHidden) kept.push(bytes.subarray(at, until));
    at = until;
  }
}

const JFIF_BYTES = 18;

/**
 * JFIF 1.02: its own segment may hold a small picture, and one that follows (JFXX) does: perhaps of what was cut away from the large
 * one. Only how large a dot is stays.
 */
function withoutSmallPicture(bytes: Buffer, at: number, end: number): Buffer[] {
  if (bytes.toString("latin1", at + 4, at + 9) !== "JFIF\0" || end - at < JFIF_BYTES) return [];
  const segment = Buffer.from(bytes.subarray(at, at + JFIF_BYTES));
  segment.writeUInt16BE(JFIF_BYTES - 2, 2);
  segment.fill(0, JFIF_BYTES - 2);
  return [segment];
}

const isColourProfile = (bytes: Buffer, at: number, marker: number): boolean =>
  marker === APP2_COLOUR && bytes.toString("latin1", at + 4, at + 15) === "ICC_PROFILE";

/** Where coded data ends: at the next marker that is neither a stuffed byte nor a restart. */
function endOfScan(bytes: Buffer, from: number): number {
  for (let at = bytes.indexOf(0xff, from); at !== -1 && at + 1 < bytes.length; at = bytes.indexOf(0xff, at + 1)) {
    const next = byteAt(bytes, at + 1);
    if (next !== 0 && next !== 0xff && !(next >= 0xd0 && next <= 0xd7)) return at;
  }
  throw new RangeError("cut off");
}

/** PNG specification, third edition: the chunks a picture is drawn from. */
const PNG_CHUNKS = new Set(
  "IHDR PLTE IDAT IEND tRNS gAMA cHRM sRGB iCCP cICP sBIT bKGD pHYs acTL fcTL fdAT".split(" "),
);

function stripPng(bytes: Buffer): Buffer {
  const kept: Buffer[] = [bytes.subarray(0, 8)];
  for (let at = 8; ;) {
    const end = at + 12 + bytes.readUInt32BE(at);
    if (end > bytes.length) throw new RangeError("cut off");
    const type = bytes.toString("latin1", at + 4, at + 8);
    if (PNG_CHUNKS.has(type)) kept.push(bytes.subarray(at, end));
    if (type === "IEND") return Buffer.concat(kept);
    at = end;
  }
}

/** WebP container specification: hidden data lies in chunks of its own, announced by two flags. */
const WEBP_CHUNKS = new Set(["VP8 ", "VP8L", "VP8X", "ALPH", "ANIM", "ANMF", "ICCP"]);
const XMP_FLAG = 0x04;
const EXIF_FLAG = 0x08;

function stripWebp(bytes: Buffer): Buffer {
  const length = 8 + bytes.readUInt32LE(4);
  if (length > bytes.length) throw new RangeError("cut off");
  const kept: Buffer[] = [];
  for (let at = 12; at + 8 <= length;) {
    const size = bytes.readUInt32LE(at + 4);
    const end = at + 8 + size + (size % 2);
    if (end > length) throw new RangeError("cut off");
    const type = bytes.toString("latin1", at, at + 4);
    if (WEBP_CHUNKS.has(type)) {
      const chunk = Buffer.from(bytes.subarray(at, end));
      if (type === "VP8X") chunk[8] = byteAt(chunk, 8) & ~(XMP_FLAG | EXIF_FLAG);
      kept.push(chunk);
    }
    at = end;
  }
  const body = Buffer.concat(kept);
  const head = Buffer.from(bytes.subarray(0, 12));
  head.writeUInt32LE(4 + body.length, 4);
  return Buffer.concat([head, body]);
}

function stripClip(bytes: Buffer, isDataCleared: boolean): Buffer {
  const copy = Buffer.from(bytes);
  clearIn(copy, 0, clearingsOf(Source.of(bytes), isDataCleared));
  return copy;
}

function byteAt(bytes: Buffer, at: number): number {
  const byte = bytes[at];
  if (byte === undefined) throw new RangeError("cut off");
  return byte;
}

const TAGS = Buffer.from([0x12, 0x54, 0xc3, 0x67]);
const CLUSTER = Buffer.from([0x1f, 0x43, 0xb6, 0x75]);
const VOID_LENGTH_FIELD = 0x01;
const TAGS_BYTES_LEAST = 9;

/**
 * RFC 9559: tags, where they stand before the first sound, become a void element of the same length; what a phone's recorder
 * writes has no others.
 */
function stripVoice(bytes: Buffer): Buffer {
  const first = bytes.indexOf(CLUSTER);
  const at = bytes.indexOf(TAGS);
  if (first === -1) throw new RangeError("no sound in it");
  if (at === -1 || at > first) return bytes;
  const length = first - at;
  if (length < TAGS_BYTES_LEAST) throw new RangeError("tags without a length");
  const blank = Buffer.alloc(length);
  blank[0] = 0xec;
  blank[1] = VOID_LENGTH_FIELD;
  blank.writeUIntBE(length - TAGS_BYTES_LEAST, 3, 6);
  return Buffer.concat([bytes.subarray(0, at), blank, bytes.subarray(first)]);
}
