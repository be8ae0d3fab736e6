import { EVENT_TYPES, eventTypeOf, type EventType } from "@still-pine/core/record";
import { describe, expect, it } from "vitest";
import { loosePenStart } from "@still-pine/core/programs";
import { inDialect } from "../parts/choice-words";
import { changesBetween, readForm, toForm, wholeErrors, type FormValues } from "./form-values";

const METRIC = { units: "metric", timeZone: "Europe/Dublin" } as const;
const IMPERIAL = { units: "imperial", timeZone: "Europe/Dublin" } as const;
const typeOf = (name: string): EventType => {
  const type = eventTypeOf(name);
  if (!type) throw new Error(`no type ${name}`);
  return type;
};
const read = (name: string, values: FormValues, ways: typeof METRIC | typeof IMPERIAL = METRIC) =>
  readForm(typeOf(name).fields, values, ways);

describe("a form read", () => {
  it("leaves out what was not said, and names what is needed", () => {
    expect(read("care", { kind: "feet", text: " " })).toEqual({ ok: true, fields: { kind: "feet" } });
    expect(read("care", {})).toEqual({ ok: false, errors: { kind: "Say this one." } });
  });

  it("keeps a measure in SI and as it was typed", () => {
    expect(read("height", { heightCm: "15.2" })).toEqual({
      ok: true,
      fields: { heightCm: 157.48, typed: { heightCm: "15.2 hands" } },
    });
    expect(read("weight", { weightKg: "900" }, IMPERIAL)).toEqual({
      ok: true,
      fields: { weightKg: 408.2331, typed: { weightKg: "900 lb" } },
    });
  });

  it.each([
    ["height", { heightCm: "15.4" }, "heightCm", "a hand has four inches"],
    ["weight", { weightKg: "9000" }, "weightKg", "From 5 kg to 2000 kg"],
    ["ask", { step: "flex", answer: "gave", waitSeconds: "soon" }, "waitSeconds", "A number from 0 to 3600."],
    [
      "series",
      { step: "flex", count: "2.5", clean: "1", first: "gave", worst: "gave" },
      "count",
      "A whole number from 1 to 500.",
    ],
    ["head", { gear: "x".repeat(61) }, "gear", "with commas between"],
    ["sign", { sign: "wings" }, "sign", "Choose one."],
  ])("%s with %j says what was expected", (type, values, field, words) => {
    const result = read(type, values as unknown as FormValues);
    expect(result.ok ? null : result.errors[field]).toContain(words);
  });

  it("reads a list, a yes, a number of a scale and a time of the yard's clock, over its change too", () => {
    expect(read("head", { gear: "stick,  flag ,", onlookers: "false", startedAt: "2026-07-01T10:00" })).toEqual({
      ok: true,
      fields: { gear: ["stick", "flag"], onlookers: false, startedAt: "2026-07-01T09:00:00.000Z" },
    });
    expect(read("head", { startedAt: "2026-12-01T10:00" })).toMatchObject({
      fields: { startedAt: "2026-12-01T10:00:00.000Z" },
    });
    expect(read("mishap", { kind: "rear", severity: "3", personHurt: "true" })).toMatchObject({
      fields: { severity: 3, personHurt: true },
    });
  });

  it("says what the whole gets wrong: a series that does not add up, a good answer without its mood", () => {
    expect(
      wholeErrors(
        typeOf("series"),
        { step: "flex", side: "near", count: 2, clean: 3, first: "gave", worst: "gave", phase: 1, mood: 1 },
        loosePenStart,
      ),
    ).toHaveProperty("clean");
    expect(
      wholeErrors(typeOf("ask"), { step: "flex", side: "near", answer: "gave", phase: 1 }, loosePenStart),
    ).toHaveProperty("mood");
    expect(wholeErrors(typeOf("note"), { text: "fine" }, loosePenStart)).toEqual({});
  });
});

describe("an event in a form", () => {
  const before = { heightCm: 157.48, croupCm: 159.9123, typed: { heightCm: "15.2 hands" } };
  const { fields } = typeOf("height");
  const changed = (values: FormValues) => {
    const shown = toForm(fields, before, METRIC);
    const all = { ...shown, ...values };
    const result = readForm(fields, all, METRIC);
    return result.ok ? changesBetween(fields, before, shown, all, result.fields) : result.errors;
  };

  it("stands as it was typed, or in the yard's units", () => {
    expect(toForm(fields, before, METRIC)).toEqual({ heightCm: "15.2 hands", croupCm: "15.3 hands" });
  });

  it("gives only what was touched; what was not stays to the last digit", () => {
    expect(changed({})).toEqual({});
    expect(changed({ heightCm: "15.1" })).toEqual({ heightCm: 154.94, typed: { heightCm: "15.1 hands" } });
    expect(changed({ croupCm: "" })).toEqual({ croupCm: null, typed: { heightCm: "15.2 hands" } });
  });

  it("says in the later shape what the former has no name for", () => {
    const ask = { type: "ask", step: "flex", side: "near", answer: "gave", phase: 1, mood: 1 };
    const changes = (before: Record<string, unknown>, said: FormValues): unknown => {
      const shown = toForm(typeOf("ask").fields, before, METRIC);
      const result = read("ask", { ...shown, ...said });
      return result.ok
        ? changesBetween(typeOf("ask").fields, before, shown, { ...shown, ...said }, result.fields)
        : result.errors;
    };
    expect(changes(ask, { rung: "3s" })).toEqual({ rung: "3s", v: 2 });
    expect(changes({ ...ask, v: 2 }, { rung: "3s" })).toEqual({ rung: "3s" });
    expect(changes(ask, { mood: "2" })).toEqual({ mood: 2 });
  });

  it("of every type comes back as it was", () => {
    for (const { type, fields: all } of EVENT_TYPES) {
      const values = Object.fromEntries(
        all.flatMap(({ name, is }) => {
          const value =
            is.kind === "choice"
              ? String(is.values[0])
              : is.kind === "yes-no"
                ? "true"
                : is.kind === "whole"
                  ? String(is.least)
                  : is.kind === "day"
                    ? "2026-05-01"
                    : null;
          return value === null ? [] : [[name, value]];
        }),
      );
      const chosen = all.filter(({ name }) => name in values);
      const result = readForm(chosen, values, METRIC);
      expect([type, result.ok && toForm(chosen, result.fields, METRIC)]).toEqual([type, values]);
    }
  });
});

describe("the yard's words", () => {
  it("are put for ours in Britain and Ireland, and only there", () => {
    expect(inDialect("Saddle pad, blanket and trailer", "british")).toBe("Numnah, rug and float");
    expect(inDialect("Saddle pad, blanket and trailer", "american")).toBe("Saddle pad, blanket and trailer");
    expect(inDialect("padlock", "british")).toBe("padlock");
  });
});
