import type { Source } from "./source";

/**
 * Where a clip's pictures and sound lie (ISO/IEC 14496-12:2015, sections 8.7 for sample tables and 8.8 for fragments). What lies
 * between them is nobody's to see: a camera writes where it is into samples of a track of its own.
 */

/** A box of a clip: where its content begins and where it ends. */
export interface Box {
  type: string;
  at: number;
  body: number;
  end: number;
}

/** More boxes than any clip of a few minutes has, in fragments of a tenth of a second too. */
const BOXES_MOST = 50_000;

/** Reads a file's boxes level by level. @throws RangeError where it is cut off, or made of boxes without end */
export class Boxes {
  private count = 0;

  constructor(readonly bytes: Source) {}

  in(from: number, to: number): Box[] {
    const boxes: Box[] = [];
    for (let at = from; at + 8 <= to;) {
      if ((this.count += 1) > BOXES_MOST) throw new RangeError("more boxes than a clip has");
      const box = this.at(at, to);
      boxes.push(box);
      at = box.end;
    }
    return boxes;
  }

  private at(at: number, to: number): Box {
    const { bytes } = this;
    const short = bytes.u32(at);
    const size = short === 1 ? bytes.u64(at + 8) : short === 0 ? to - at : short;
    const body = at + (short === 1 ? 16 : 8);
    if (at + size < body || at + size > to) throw new RangeError("cut off");
    return { type: bytes.name(at + 4), at, body, end: at + size };
  }
}

/** From a byte up to another. */
export type Span = [from: number, to: number];

/** A track that is seen or heard. */
interface Track {
  id: number;
  tables: Box[];
  /** Size of a sample of a fragment that says none. */
  usual: number;
}

const SEEN = new Set(["vide", "soun"]);

/** Whether a track is neither picture nor sound, by its handler. One without a handler is left alone. */
export function isHiddenTrack(boxes: Boxes, trak: Box): boolean {
  const handler = find(boxes, trak, "mdia", "hdlr");
  return handler !== undefined && !SEEN.has(boxes.bytes.name(handler.body + 8));
}

function find(boxes: Boxes, box: Box, ...path: string[]): Box | undefined {
  let found: Box | undefined = box;
  for (const type of path) found = found && boxes.in(found.body, found.end).find((one) => one.type === type);
  return found;
}

/** The spans of a file that are seen or heard, in order, none over another. */
export function visibleSpans(boxes: Boxes, top: readonly Box[]): Span[] {
  const spans: Span[] = [];
  const tracks = new Map<number, Track>();
  for (const moov of top.filter(({ type }) => type === "moov")) {
    const inside = boxes.in(moov.body, moov.end);
    for (const trak of inside.filter(({ type }) => type === "trak")) {
      const track = isHiddenTrack(boxes, trak) ? null : readTrack(boxes, trak);
      if (!track) continue;
      tracks.set(track.id, track);
      spans.push(...samplesIn(boxes.bytes, track.tables));
    }
    for (const mvex of inside.filter(({ type }) => type === "mvex"))
      for (const trex of boxes.in(mvex.body, mvex.end).filter(({ type }) => type === "trex")) {
        const track = tracks.get(boxes.bytes.u32(trex.body + 4));
        if (track) track.usual = boxes.bytes.u32(trex.body + 16);
      }
  }
  for (const moof of top.filter(({ type }) => type === "moof")) spans.push(...samplesOfFragment(boxes, moof, tracks));
  return joined(spans, boxes.bytes.length);
}

function readTrack(boxes: Boxes, trak: Box): Track | null {
  const header = find(boxes, trak, "tkhd");
  const tables = find(boxes, trak, "mdia", "minf", "stbl");
  if (!header || !tables) return null;
  // Version 1 has times of eight bytes.
  const id = boxes.bytes.u32(header.body + (boxes.bytes.u8(header.body) === 1 ? 20 : 12));
  return { id, tables: boxes.in(tables.body, tables.end), usual: 0 };
}

/** Samples by the tables of a track: which chunk begins where, how many samples it has, how large each is. */
function samplesIn(bytes: Source, tables: readonly Box[]): Span[] {
  const table = (...types: string[]): Box | undefined => tables.find(({ type }) => types.includes(type));
  const sizes = table("stsz", "stz2");
  const perChunk = table("stsc");
  const offsets = table("stco", "co64");
  if (!sizes || !perChunk || !offsets) return [];
  const sizeOf = sampleSizes(bytes, sizes);
  const runs = entries(bytes, perChunk, 12);
  const spans: Span[] = [];
  let sample = 0;
  let run = 0;
  entries(bytes, offsets, offsets.type === "co64" ? 8 : 4).forEach((entry, index) => {
    while (runs[run + 1] !== undefined && bytes.u32(runs[run + 1] ?? 0) <= index + 1) run += 1;
    const from = offsets.type === "co64" ? bytes.u64(entry) : bytes.u32(entry);
    const count = bytes.u32((runs[run] ?? 0) + 4);
    const { bytes: length, next } = sizeOf(sample, count);
    sample = next;
    spans.push([from, from + length]);
  });
  return spans;
}

/** Where each entry of a table stands, as many as the box has room for. */
function entries(bytes: Source, { body, end }: Box, size: number): number[] {
  const count = Math.min(bytes.u32(body + 4), Math.floor((end - body - 8) / size));
  return Array.from({ length: Math.max(0, count) }, (_none, index) => body + 8 + index * size);
}

/** Adds up the sizes of samples from one on. */
function sampleSizes(
  bytes: Source,
  { type, body, end }: Box,
): (from: number, count: number) => { bytes: number; next: number } {
  const isCompact = type === "stz2";
  const same = isCompact ? 0 : bytes.u32(body + 4);
  const all = bytes.u32(body + 8);
  const bits = isCompact ? bytes.u8(body + 7) : 32;
  const listed = same > 0 ? all : Math.min(all, Math.floor(((end - body - 12) * 8) / bits));
  const sizeAt = (index: number): number => {
    if (bits === 32) return bytes.u32(body + 12 + index * 4);
    if (bits === 16) return bytes.u16(body + 12 + index * 2);
    const byte = bytes.u8(body + 12 + Math.floor((index * bits) / 8));
    return bits === 8 ? byte : index % 2 === 0 ? byte >> 4 : byte & 15;
  };
  return (from, count) => {
    const next = Math.min(listed, from + count);
    let sum = same > 0 ? same * (next - from) : 0;
    if (same === 0) for (let index = from; index < next; index += 1) sum += sizeAt(index);
    return { bytes: sum, next };
  };
}

const HAS = { baseOffset: 0x1, description: 0x2, duration: 0x8, size: 0x10, baseIsMoof: 0x20000 };
const RUN_HAS = { offset: 0x1, first: 0x4, duration: 0x100, size: 0x200, flags: 0x400, composition: 0x800 };

function samplesOfFragment(boxes: Boxes, moof: Box, tracks: ReadonlyMap<number, Track>): Span[] {
  const { bytes } = boxes;
  const spans: Span[] = [];
  // Without a base of its own a track's data follow those of the one before (8.8.7).
  let follows = moof.at;
  for (const traf of boxes.in(moof.body, moof.end).filter(({ type }) => type === "traf")) {
    const inside = boxes.in(traf.body, traf.end);
    const header = inside.find(({ type }) => type === "tfhd");
    if (!header) continue;
    const flags = bytes.u32(header.body) & 0xffffff;
    const track = tracks.get(bytes.u32(header.body + 4));
    let at = header.body + 8;
    const base = flags & HAS.baseOffset ? bytes.u64(at) : flags & HAS.baseIsMoof ? moof.at : follows;
    if (flags & HAS.baseOffset) at += 8;
    if (flags & HAS.description) at += 4;
    if (flags & HAS.duration) at += 4;
    const usual = flags & HAS.size ? bytes.u32(at) : (track?.usual ?? 0);
    let from = base;
    for (const run of inside.filter(({ type }) => type === "trun")) {
      const [start, length] = runOf(bytes, run, base, from, usual);
      if (track) spans.push([start, start + length]);
      from = start + length;
    }
    follows = from;
  }
  return spans;
}

/** Where a run of samples begins and how long it is. */
function runOf(bytes: Source, { body, end }: Box, base: number, after: number, usual: number): [number, number] {
  const flags = bytes.u32(body) & 0xffffff;
  const count = bytes.u32(body + 4);
  let at = body + 8;
  const start = flags & RUN_HAS.offset ? base + bytes.i32(at) : after;
  if (flags & RUN_HAS.offset) at += 4;
  if (flags & RUN_HAS.first) at += 4;
  if (!(flags & RUN_HAS.size)) return [start, usual * count];
  const before = flags & RUN_HAS.duration ? 4 : 0;
  const each = before + 4 + (flags & RUN_HAS.flags ? 4 : 0) + (flags & RUN_HAS.composition ? 4 : 0);
  let length = 0;
  for (let index = 0; index < count && at + each <= end; index += 1, at += each) length += bytes.u32(at + before);
  return [start, length];
}

/** Spans in order, those that touch made one, none beyond the file. */
function joined(spans: readonly Span[], length: number): Span[] {
  const result: Span[] = [];
  for (const [from, to] of spans.toSorted(([a], [b]) => a - b)) {
    const span: Span = [Math.max(0, from), Math.min(length, to)];
    const last = result.at(-1);
    if (span[0] >= span[1]) continue;
    if (last && span[0] <= last[1]) last[1] = Math.max(last[1], span[1]);
    else result.push(span);
  }
  return result;
}
