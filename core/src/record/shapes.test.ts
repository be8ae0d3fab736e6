import { describe, expect, it } from "vitest";
import { EVENT_TYPES, versionOf } from ".";
import { SINCE_TWO } from "./shapes";

describe("the version of an event's shape", () => {
  it("is told by the same fields as the declarations have since then", () => {
    const declared = EVENT_TYPES.flatMap(({ type, fields }) => {
      const later = fields.filter(({ since = 1 }) => since > 1).map(({ name, since }) => [name, since] as const);
      return later.length > 0 ? [[type, later.toSorted()] as const] : [];
    });
    const told = Object.entries(SINCE_TWO).map(([type, names]) => [type, names.map((name) => [name, 2]).toSorted()]);
    expect(declared.toSorted()).toEqual(told.toSorted());
  });

  it("is the later one for whatever can say how it was put, also where it leaves that unsaid", () => {
    expect(versionOf({ type: "ask", step: "flex" })).toBe(2);
    expect(versionOf({ type: "series", step: "flex" })).toBe(2);
  });

  it("is the former one elsewhere, as long as nothing of the later is said", () => {
    expect(versionOf({ type: "startle", size: 2 })).toBe(1);
    expect(versionOf({ type: "startle", size: 2, step: "flag" })).toBe(2);
    expect(versionOf({ type: "finish-line", step: "flag", count: 3 })).toBe(1);
    // What others call by these names is theirs.
    expect(versionOf({ type: "gait", gait: "trot" })).toBe(1);
  });
});
