import { describe, expect, it } from "vitest";
import { everythingUnder, PROGRAMS, refsOf, sidesOf, type Gate, type Program } from "../programs";
import { addDays, foldRecord } from "../record";
import { randomFrom } from "../random";
import { broughtUp, shortRecord, type ShortOuting } from "./cases/notation";
import { gather } from "./gather";
import { judgeGates } from "./gates";

const REST = 60;
const day = (n: number): string => addDays("2026-01-10", n);

/** The steps a gate asks for, in the order of the road, and all they rest on. */
function stepsOf(program: Program, gate: Gate): { asked: string[]; all: string[] } {
  const asked = new Set(refsOf(gate.needs).map(({ step }) => step));
  const all = new Set([...asked].flatMap((id) => [...everythingUnder(program, id), id]));
  const inOrder = (ids: ReadonlySet<string>): string[] => program.steps.map(({ id }) => id).filter((id) => ids.has(id));
  return { asked: inOrder(asked), all: inOrder(all) };
}

const isOpen = (program: Program, gate: Gate, outings: readonly ShortOuting[], on: number): boolean =>
  judgeGates(gather(foldRecord(shortRecord(outings)), program), day(on)).find((one) => one.gate === gate.id)?.met ===
  true;

/** Gates that days of plain work open; others ask for a gait, places of the hide or a rider besides. */
const CASES = PROGRAMS.flatMap((program) =>
  program.gates
    .filter(
      (gate) => gate.before.length > 0 && isOpen(program, gate, broughtUp(program, stepsOf(program, gate).all), -6),
    )
    .map((gate) => [program.id, gate.id, program, gate] as const),
);

describe("after a rest a gate opens with the last side that came clean, of it or of what rests on it, and not before", () => {
  it("of four kinds in every school that has them", () => {
    for (const id of ["halter", "tie", "load", "saddle"])
      expect(CASES.filter(([, gate]) => gate === id).length).toBe(
        PROGRAMS.filter(({ gates }) => gates.some((gate) => gate.id === id)).length,
      );
  });

  it.each(CASES)("%s: %s", (_program, _gate, program, gate) => {
    const { asked, all } = stepsOf(program, gate);
    const known = broughtUp(program, all);
    const opens = (asks: readonly string[]): boolean =>
      isOpen(program, gate, asks.length > 0 ? [...known, [REST, asks.join("; ")]] : known, REST);
    expect(opens([])).toBe(false);
    // From the beginning of the road on, so that nothing above freshens what was not asked; of one step in a random order.
    const random = randomFrom(asked.length * 7 + gate.id.length);
    const asks = program.steps
      .filter(({ id }) => asked.includes(id))
      .flatMap((step) =>
        sidesOf(step)
          .toSorted(() => random() - 0.5)
          .map(
            (side) =>
              `${step.id} ${side === "none" ? "" : `${side} `}${step.standard.phase ?? "-"}g${Math.min(1, step.standard.mood)}`,
          ),
      );
    const without = asks.slice(0, -1);
    expect(opens(without)).toBe(false);
    expect(opens(asks)).toBe(true);
    // The last one missed is no clean cold ask.
    expect(opens([...without, `${asks.at(-1)}`.replace(/g(\d)$/, "t$1")])).toBe(false);
  });
});
