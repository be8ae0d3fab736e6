import type { Client } from "pg";
import { lessStripped, readContent, replaceContent } from "../store/media";
import { kindOf } from "./kind";
import { strip, STRIPPED } from "./strip";

/**
 * Takes out of what is stored what the former build left in. Needs the role that migrates. One at a time, so that a kill loses
 * nothing; what cannot be read is left as it is.
 *
 * @returns how many were gone through
 */
export async function stripStored(owner: Client): Promise<number> {
  const left = await lessStripped(owner, STRIPPED);
  for (const { yardId, id } of left) {
    const before = await readContent(owner, yardId, id);
    const kind = before && kindOf(before);
    const content = (kind && strip(before, kind)) ?? before;
    if (content) await replaceContent(owner, yardId, id, content, STRIPPED);
  }
  return left.length;
}
