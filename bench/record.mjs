// A large record for the benchmarks: one horse, seeded, asks spread over the whole road and all sides.
/** A small seeded source of numbers (Park and Miller's minimal standard generator, CACM 31, 1988). */
function seeded(seed) {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** What an ask of a step says of how it was put: its rung, mostly the highest, and every chip there is. */
function saidOf({ rungs, chips }, random) {
  const pick = (list) => list[Math.floor(random() * list.length)];
  const rung = random() < 0.7 ? rungs.at(-1) : pick(rungs);
  return {
    ...(rung === undefined ? {} : { rung }),
    ...Object.fromEntries(chips.map(([name, values]) => [name, pick(values)])),
  };
}

/** A gait or a frame on a rein; one in eight spoils something. */
function goingAt(made, direction, at, day) {
  const isBad = (made + day) % 8 === 0;
  return {
    id: `going-${day}-${made}`,
    at: new Date(at).toISOString(),
    ...(made % 2 ? { type: "gait", gait: "trot" } : { type: "frame", frame: isBad ? "hollow" : "stretches" }),
    direction,
  };
}

/**
 * @param steps of the program, with their sides: [{ id, sides, hasPhase, full, rungs, chips, isTravelled }], `full` being how an ask is put as far as the standard
 * @param isSaid whether the asks say how they were put, and how he goes is said between them
 */
export function largeRecord({ asks, steps, perOuting = 40, seed = 7, isSaid = false }) {
  const random = seeded(seed);
  const outings = [];
  const start = Date.UTC(2006, 0, 2, 9);
  for (let made = 0, day = 0; made < asks; day += 1) {
    const at = start + day * 86_400_000;
    const events = [];
    for (let n = 0; n < perOuting && made < asks; n += 1, made += 1) {
      const step = steps[(Math.floor(n / 8) + day * 5) % steps.length];
      const [half, leg] = step.sides[Math.floor((n % 8) / (8 / step.sides.length))].split("-");
      const luck = random();
      const answer = luck < 0.85 ? "gave" : luck < 0.92 ? "tried" : luck < 0.97 ? "none" : "against";
      events.push({
        id: `019b0000-0000-7000-8000-${String(made).padStart(12, "0")}`,
        at: new Date(at + n * 20_000).toISOString(),
        type: "ask",
        step: step.id,
        side: half,
        ...(leg ? { part: leg } : {}),
        ...(step.hasPhase ? { phase: random() < 0.9 ? 1 : 2 } : {}),
        ...(n % 3 === 0 ? { setting: n % 2 ? "moving" : "standing" } : {}),
        answer,
        mood: random() < 0.9 ? 1 : 2,
        v: 2,
        ...(isSaid ? saidOf(step, random) : step.full),
      });
      if (isSaid && step.isTravelled && n % 4 === 0)
        events.push(goingAt(events.length, half, at + n * 20_000 + 5000, day));
    }
    outings.push({
      id: `outing-${day}`,
      startedAt: new Date(at).toISOString(),
      endedAt: new Date(at + 3_600_000).toISOString(),
      place: day % 3 ? "Round pen" : "Top yard",
      handler: day % 5 ? "A" : "B",
      events,
    });
  }
  return {
    format: "still-pine/horse-record",
    version: 1,
    yard: { timeZone: "Europe/Dublin" },
    horse: { id: "bench", name: "Bench", foaled: "2004-05-01", foaledPrecision: "month", sex: "gelding" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings,
  };
}
