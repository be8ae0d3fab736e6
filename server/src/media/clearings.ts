import { Boxes, isHiddenTrack, visibleSpans, type Span } from "./samples";
import type { Source } from "./source";

/** Bytes of a clip that go: from one up to another, made nothing, or free space by its name. */
export interface Clearing {
  from: number;
  to: number;
  as?: "free";
}

const HIDDEN_BOXES = new Set(["udta", "meta", "uuid"]);
const PARENT_BOXES = new Set(["moov", "trak", "mdia", "minf", "stbl", "moof", "traf"]);

/**
 * What goes of a clip (ISO/IEC 14496-12), in its order and none over another. Boxes with hidden data become free space of the same
 * length, so that no offset into the file moves. So do tracks that are neither picture nor sound: that is where a camera writes its
 * position. Of the media data only what is seen or heard stays.
 *
 * @param isDataCleared the former build left all media data as they were
 * @throws RangeError where the file is cut off, or holds nothing to be seen or heard
 */
export function clearingsOf(bytes: Source, isDataCleared: boolean): Clearing[] {
  const boxes = new Boxes(bytes);
  const top = boxes.in(0, bytes.length);
  const visible = isDataCleared ? visibleSpans(boxes, top) : [];
  const clearings = ofBoxes(new Boxes(bytes), 0, bytes.length);
  if (isDataCleared) {
    if (visible.length === 0) throw new RangeError("nothing to be seen or heard");
    for (const { type, body, end } of top) if (type === "mdat") clearings.push(...between(visible, body, end));
  }
  return clearings.toSorted((a, b) => a.from - b.from);
}

function ofBoxes(boxes: Boxes, from: number, to: number): Clearing[] {
  return boxes.in(from, to).flatMap((box): Clearing[] => {
    if (HIDDEN_BOXES.has(box.type) || (box.type === "trak" && isHiddenTrack(boxes, box)))
      return [
        { from: box.at + 4, to: box.at + 8, as: "free" },
        { from: box.body, to: box.end },
      ];
    return PARENT_BOXES.has(box.type) ? ofBoxes(boxes, box.body, box.end) : [];
  });
}

/** What lies from one byte to another outside of these spans. */
function between(spans: readonly Span[], from: number, to: number): Clearing[] {
  const clearings: Clearing[] = [];
  let at = from;
  for (const [begin, end] of spans) {
    if (end <= at || begin >= to) continue;
    if (begin > at) clearings.push({ from: at, to: begin });
    at = Math.max(at, end);
  }
  if (at < to) clearings.push({ from: at, to });
  return clearings;
}

/**
 * Takes out of a piece of a file what goes of it, in place.
 *
 * @param at where in the file the piece begins
 */
export function clearIn(piece: Buffer, at: number, clearings: readonly Clearing[]): void {
  for (const { from, to, as } of clearings) {
    if (from >= at + piece.length) return;
    if (to <= at) continue;
    const begin = Math.max(0, from - at);
    const end = Math.min(piece.length, to - at);
    if (as) piece.write(as.slice(begin + at - from, end + at - from), begin, "latin1");
    else piece.fill(0, begin, end);
  }
}
