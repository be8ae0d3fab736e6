// Programs: the live check of one that is written, a check-up's order, and a horse read under another school.
import { against, ms } from "./measure.mjs";
import { largeRecord } from "./record.mjs";

const RUNS = 90;
const AT_MOST_MS = { check: 5, order: 50, move: 1000 };

const times = (work) => {
  const all = [];
  for (let run = 0; run < RUNS; run += 1) {
    const began = performance.now();
    work(run);
    // The first ones only warm up.
    if (run >= RUNS / 3) all.push(performance.now() - began);
  }
  return all;
};

export function measureSchools(core, road, report) {
  const own = Array.from({ length: 51 }, (_, n) => ({
    id: `own-step-${n}`,
    name: `Step ${n}`,
    stage: "halter",
    side: "handler",
    ends: "give",
    phase: 1,
    mood: 1,
    needs: n === 0 ? ["lead"] : [`own-step-${n - 1}`, "stand"],
    ...(n === 50 ? { end: true } : {}),
  }));
  const [loose] = core.SCHOOLS;
  const file = {
    ...loose,
    id: "own-large",
    ownSteps: own,
    road: [...core.loosePenStart.steps.map(({ id }) => id), ...own.map(({ id }) => id)],
  };
  const sound = core.parseProgram(file, true);
  if (!sound.ok) throw new Error(JSON.stringify(sound.problems));
  const check = against(
    AT_MOST_MS.check,
    times((run) => core.parseProgram({ ...file, about: `Change ${run}.` }, true)),
  );
  report(
    "live check of a program half as long again as the catalogue, after a change: circles, reach, gates and their safety steps",
    "the limit itself",
    ms(check.measured),
    ms(AT_MOST_MS.check),
    check.ratio,
    1,
    check.spread,
  );

  const folded = core.foldRecord(largeRecord({ asks: 20_000, steps: road }));
  const from = core.gather(folded, core.loosePenStart);
  const order = against(
    AT_MOST_MS.order,
    times(() => core.planCheckUp(from, { stages: core.STAGES }, "2027-06-01")),
  );
  report(
    "order of a check-up of the whole road, 20,000 asks behind it",
    "the limit itself",
    ms(order.measured),
    ms(AT_MOST_MS.order),
    order.ratio,
    1,
    order.spread,
  );
  const move = against(
    AT_MOST_MS.move,
    times((run) => {
      const to = core.gatherAfterMove(folded, from, core.PROGRAMS[1 + (run % 6)], "2026-06-01");
      core.describeMove(from, to, "2026-06-01");
    }),
  );
  report(
    "a horse of 20,000 asks read under another school, on the server: the page only shows it",
    "what a person waits for",
    ms(move.measured),
    ms(AT_MOST_MS.move),
    move.ratio,
    1,
    move.spread,
  );
}
