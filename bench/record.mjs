// A large record for the benchmarks: one horse, seeded, asks spread over the whole road and all sides.
/** A small seeded source of numbers (Park and Miller's minimal standard generator, CACM 31, 1988). */
function seeded(seed) {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** @param steps of the program, with their sides: [{ id, sides, hasPhase, isMoment }] */
export function largeRecord({ asks, steps, perOuting = 40, seed = 7 }) {
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
      });
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
