import { MEDIA_KINDS } from "../vocabulary";
import { choice, make, maybe, needed, words } from "./fields";

/** What is said of files, clocks and other entries. */
export const OTHER_EVENTS = [
  make(
    "media",
    "Photo, clip or voice",
    "either",
    "A photo, clip or voice note lies beside the record.",
    [
      needed(["media", "File", { kind: "id" }, "Id of the file; in an archive it is `media/ID.ext`."]),
      needed(["kind", "Kind", choice(MEDIA_KINDS)]),
      maybe(["text", "Words", words]),
    ],
    { byHand: false },
  ),
  make(
    "clock-skew",
    "Clock measured",
    "outing",
    "How far a device's clock was behind; added to what that device says.",
    [
      needed(["of", "Device", { kind: "id" }]),
      needed([
        "behindSeconds",
        "Seconds behind",
        { kind: "number", least: -1e9, most: 1e9, unit: "s" },
        "Negative: ahead.",
      ]),
    ],
    { byHand: false, byHelper: true },
  ),
  make(
    "correction",
    "Correction",
    "either",
    "Voids or changes an earlier event, which stays in the record.",
    [
      needed(["replaces", "Event", { kind: "id" }, "Id of the event it corrects; may be a correction."]),
      maybe(["void", "Void", { kind: "true" }, "The event does not count."]),
      maybe(["with", "With", { kind: "fields" }, "Changed fields of the event; null takes a field away."]),
    ],
    { byHand: false, byHelper: true },
  ),
] as const;
