import { Check, CircleDashed, CircleSlash, History, type LucideIcon } from "lucide-react";
import type { Found } from "@still-pine/core/checkup";

export const FOUND_WORDS: Record<Found, string> = {
  holds: "Holds",
  rusty: "Rusty",
  hole: "Hole",
  "not-tested": "Not tested",
};

const ICONS: Record<Found, [LucideIcon, string]> = {
  holds: [Check, "text-pine"],
  rusty: [History, "text-resin"],
  hole: [CircleSlash, "text-clay"],
  "not-tested": [CircleDashed, "text-faint"],
};

/** A shape for each, never by colour alone. */
export function FoundMark({ found }: { found: Found }) {
  const [Icon, look] = ICONS[found];
  return <Icon size={17} className={`shrink-0 ${look}`} aria-hidden="true" />;
}
