import { imageSize } from "image-size";

/** What a photo, clip or voice note is, proven by its content; what was said of it does not count. */
export interface MediaKind {
  contentType: "image/jpeg" | "image/png" | "image/webp" | "video/mp4" | "video/quicktime" | "audio/webm" | "audio/mp4";
  extension: "jpg" | "png" | "webp" | "mp4" | "mov" | "weba" | "m4a";
  isPhoto: boolean;
}

export const PHOTO_MOST_BYTES = 10 * 1024 * 1024;
export const CLIP_MOST_BYTES = 50 * 1024 * 1024;
const VOICE_MOST_BYTES = 10 * 1024 * 1024;
/** A picture of more pixels than this fills a phone's memory when it is shown. */
const PIXELS_MOST = 60_000_000;

const PNG_MARK = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** Matroska and WebM begin so (RFC 8794). */
const EBML_MARK = [0x1a, 0x45, 0xdf, 0xa3];
/** Tracks are described before the first sound. */
const HEADER_BYTES = 4096;
/** Brands of the ISO base media format that are pictures, not clips. */
const PICTURE_BRANDS = new Set(["heic", "heix", "hevc", "mif1", "msf1", "avif", "avis"]);

const textAt = (bytes: Buffer, from: number): string => bytes.toString("latin1", from, from + 4);

/** WebM with sound and no picture, by the names of its codecs (RFC 9559: V_ for video, A_ for audio). */
function isVoiceOnly(bytes: Buffer): boolean {
  const header = bytes.toString("latin1", 0, HEADER_BYTES);
  return header.includes("webm") && /A_(OPUS|VORBIS)/.test(header) && !/V_[A-Z]/.test(header);
}

/** Null where the content is none of the kinds that are taken. */
export function kindOf(bytes: Buffer): MediaKind | null {
  if (bytes.length < 16) return null;
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff)
    return { contentType: "image/jpeg", extension: "jpg", isPhoto: true };
  if (PNG_MARK.every((byte, index) => bytes[index] === byte))
    return { contentType: "image/png", extension: "png", isPhoto: true };
  if (textAt(bytes, 0) === "RIFF" && textAt(bytes, 8) === "WEBP")
    return { contentType: "image/webp", extension: "webp", isPhoto: true };
  if (EBML_MARK.every((byte, index) => bytes[index] === byte))
    return isVoiceOnly(bytes) ? { contentType: "audio/webm", extension: "weba", isPhoto: false } : null;
  if (textAt(bytes, 4) !== "ftyp") return null;
  const brand = textAt(bytes, 8);
  if (brand === "M4A ") return { contentType: "audio/mp4", extension: "m4a", isPhoto: false };
  if (PICTURE_BRANDS.has(brand)) return null;
  return brand === "qt  "
    ? { contentType: "video/quicktime", extension: "mov", isPhoto: false }
    : { contentType: "video/mp4", extension: "mp4", isPhoto: false };
}

const isVoice = ({ contentType }: MediaKind): boolean => contentType.startsWith("audio/");

/** Why a photo, clip or voice note of so many bytes cannot be taken, or null. */
export function whyTooLarge(length: number, kind: MediaKind): string | null {
  const most = kind.isPhoto ? PHOTO_MOST_BYTES : isVoice(kind) ? VOICE_MOST_BYTES : CLIP_MOST_BYTES;
  if (length <= most) return null;
  return `expected ${kind.isPhoto ? "a photo" : isVoice(kind) ? "a voice note" : "a clip"} of at most ${most / 1024 / 1024} MB, found ${(length / 1024 / 1024).toFixed(1)} MB`;
}

/** Why a photo, clip or voice note cannot be taken, or null. */
export function whyNotTaken(bytes: Buffer, kind: MediaKind): string | null {
  const why = whyTooLarge(bytes.length, kind);
  if (why !== null || !kind.isPhoto) return why;
  try {
    const { width, height } = imageSize(bytes);
    return width * height > PIXELS_MOST
      ? `expected at most ${PIXELS_MOST / 1_000_000} million pixels, found ${width} × ${height}`
      : null;
  } catch {
    return "expected a whole picture, found one that is cut off or damaged";
  }
}
