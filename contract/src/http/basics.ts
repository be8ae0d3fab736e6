import { z } from "zod";
import { STATUSES, type SideKey } from "@still-pine/core/readiness";

/** What the shapes of answers are made of. */

export const day = z.iso.date();
export const text = z.string();
export const count = z.int().min(0);
export const status = z.literal(STATUSES);
export const sideKeys = [
  "near",
  "off",
  "none",
  "near-fore",
  "near-hind",
  "off-fore",
  "off-hind",
] as const satisfies SideKey[];
export const bySide = <Shape extends z.ZodType>(shape: Shape) => z.partialRecord(z.literal(sideKeys), shape);
