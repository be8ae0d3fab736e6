import { describe, expect, it } from "vitest";
import type { StringHorse } from "@still-pine/contract/http";
import { SHIPPED } from "@still-pine/core/programs";
import type { ProgramFor } from "../../book/use-book";
import { filterHorses, sortHorses } from "./order";

const programFor: ProgramFor = ({ program }) => SHIPPED.find(program.id);

const horse = (name: string, more: Partial<StringHorse> = {}): StringHorse => ({
  id: name,
  name,
  foaled: "2022-05-01",
  foaledPrecision: "month",
  sex: "mare",
  version: 1,
  age: "4 years",
  inWork: true,
  workDays: 3,
  calendarDays: 5,
  lastOuting: "2026-05-18",
  program: { id: "loose-pen-start", version: 2 },
  trail: [],
  steady: 0,
  slipped: 0,
  rusty: 0,
  edge: [],
  gate: null,
  waitsOn: null,
  ...more,
});
const TODAY = "2026-05-20";
const names = (horses: readonly StringHorse[]): string[] => horses.map(({ name }) => name);

describe("the string in order", () => {
  const string = [
    horse("Dipper", { rusty: 2, steady: 9 }),
    horse("Wren", { slipped: 1, lastOuting: "2026-05-19" }),
    horse("Knot", { lastOuting: "2026-05-01", workDays: 20 }),
    horse("Avocet", { lastOuting: null }),
  ];

  it("has slipped first, then rusty, then who was not out longest", () => {
    expect(names(sortHorses(string, "attention"))).toEqual(["Wren", "Dipper", "Avocet", "Knot"]);
  });

  it("sorts by name, work days, the last outing and how far he is", () => {
    expect(names(sortHorses(string, "name"))).toEqual(["Avocet", "Dipper", "Knot", "Wren"]);
    expect(names(sortHorses(string, "days"))[0]).toBe("Knot");
    expect(names(sortHorses(string, "last")).slice(0, 2)).toEqual(["Avocet", "Knot"]);
    expect(names(sortHorses(string, "road"))[0]).toBe("Dipper");
  });

  it("shows what slipped, who stands at a gate, and who was not out for a week", () => {
    const at = horse("Ruff", { gate: { gate: "tie", have: 5, of: 6 } });
    const far = horse("Reeve", { gate: { gate: "tie", have: 4, of: 6 } });
    expect(names(filterHorses(string, { shown: "slipped", find: "", today: TODAY }, programFor))).toEqual([
      "Dipper",
      "Wren",
    ]);
    expect(names(filterHorses([at, far], { shown: "gate", find: "", today: TODAY }, programFor))).toEqual(["Ruff"]);
    expect(names(filterHorses(string, { shown: "idle", find: "", today: TODAY }, programFor))).toEqual([
      "Knot",
      "Avocet",
    ]);
  });

  it("finds by name, by a step at the edge, by its word and by the gate", () => {
    const flexing = horse("Stint", {
      edge: [{ step: "flex", status: "coming", reason: "gate" }],
      gate: { gate: "tie", have: 1, of: 6 },
    });
    for (const text of ["stin", "lateral", "COMING", "tying"])
      expect([
        text,
        names(filterHorses([...string, flexing], { shown: "all", find: text, today: TODAY }, programFor)),
      ]).toEqual([text, ["Stint"]]);
    expect(filterHorses(string, { shown: "all", find: "nobody", today: TODAY }, programFor)).toEqual([]);
  });
});
