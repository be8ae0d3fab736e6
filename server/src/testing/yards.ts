import { EVENT_TYPES, type Field, type FieldIs } from "@still-pine/core/record";
import { SCHOOLS } from "@still-pine/core/programs";
import { historyOf } from "./histories";
import { seeded } from "./nonsense";
import { call } from "./throw-away";

/**
 * Fills a yard through its own doors with what its screens and phones can send, at the edges of what is taken: every type of
 * entry with any value its fields may have, odd ids and names, years mistyped, clocks measured, troubles, drafts and programs.
 */
export async function fillYard(url: string, seed: number): Promise<void> {
  const random = seeded(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
  const chance = (share: number): boolean => random() < share;
  const text = (most: number): string =>
    pick(["x", "Ærø 😀", "a\tb\nc", "=1+1", '"quoted"', "' or 1=1 --", "ﬀ ｆull", "l".repeat(120)]).slice(0, most);

  const valueOf = (is: FieldIs): unknown => {
    switch (is.kind) {
      case "choice":
        return pick(is.values);
      case "whole":
        return pick([is.least, is.most, Math.floor((is.least + is.most) / 2)]);
      case "number":
      case "measure":
        return pick([is.least, is.most, (is.least + is.most) / 3]);
      case "text":
        return text(is.most);
      case "texts":
        return [text(is.each)];
      case "label":
        return pick(["M", "Ann O'Hara", "日本"]);
      case "yes-no":
        return chance(0.5);
      case "day":
        return pick(["2026-05-01", "1900-01-01", "2200-12-31"]);
      case "instant":
        return pick(["2026-05-01T09:00:00Z", "2062-05-01T09:00:00+02:00"]);
      case "step":
        return pick(["flex", "halter-on", "piaffe"]);
      case "rung":
        return pick(["3s", "on-and-off", "gone"]);
      case "id":
        return pick(["x", "y", "z".repeat(200)]);
      case "true":
        return true;
      case "fields":
        return { text: text(80) };
      default:
        return is satisfies never;
    }
  };
  const fieldsOf = (fields: readonly Field[]): Record<string, unknown> =>
    Object.fromEntries(
      fields
        .filter(({ needed, neededNow }) => needed || neededNow || chance(0.3))
        .map(({ name, is }) => [name, valueOf(is)]),
    );

  const { horses, batches } = historyOf(seed, `y${seed}`);
  for (const [index, id] of horses.entries())
    await call(`${url}/api/horses`, "POST", {
      id,
      name: text(60),
      foaled: pick(["2022-05-01", "1900-01-01", "2026-06-01"]),
      foaledPrecision: pick(["day", "month", "year"]),
      sex: index === 0 ? "mare" : pick(["gelding", "stallion"]),
    });
  for (const events of batches) await call(`${url}/api/events`, "POST", { events });
  const [first] = horses;
  const events = EVENT_TYPES.filter(() => chance(0.6)).map(({ type, of, fields }, n) => ({
    horse: first,
    outing: of === "horse" ? null : `${first}-o${n % 3}`,
    event: {
      id: chance(0.05) ? `${n}${"i".repeat(196)}` : `y${seed}-e${n}`,
      at: pick([
        "2026-05-03T09:00:00Z",
        "2026-05-03T09:00:00.123456Z",
        "2062-05-03T09:00:00-03:00",
        "1900-01-01T00:00:00Z",
      ]),
      type,
      ...(chance(0.5) ? { v: 2 } : {}),
      ...(chance(0.3) ? { device: pick(["x", "w"]), seq: n } : {}),
      ...(chance(0.2) ? { recordedAt: "2026-05-04T09:00:00Z" } : {}),
      ...(chance(0.2) ? { unheardOf: { of: [1, null, "x"] } } : {}),
      ...fieldsOf(fields),
    },
  }));
  await call(`${url}/api/events`, "POST", { events });

  const put = (path: string, body: object, version = 0) =>
    call(`${url}/api${path}`, "PUT", body, { "If-Match": `"${version}"` });
  const trouble = {
    seen: [text(40)],
    body: [{ look: text(40), who: "vet" }],
    steps: [{ step: "flex", why: text(40) }],
  };
  if (chance(0.5))
    await put(`/troubles/${encodeURIComponent(pick(["t", "t".repeat(300), "ü"]))}`, { name: text(40), ...trouble });
  for (const id of ["own-a", `own-${"b".repeat(300)}`, "own-c"])
    if (chance(0.5)) await put(`/programs/${id}/draft`, { file: { ...pick(SCHOOLS), name: text(40) } });
  if (chance(0.4)) await call(`${url}/api/programs/own-a/publish`, "POST", {}, { "If-Match": '"1"' });
  const { body: people } = await call(`${url}/api/people`, "GET");
  if (people?.[0] && chance(0.5))
    await put(`/people/${people[0].id}`, { label: pick(["Somebody", "—", "Ms = 1"]) }, people[0].version);
  if (chance(0.2)) await call(`${url}/api/horses/${horses[1]}/bury`, "POST", {}, { "If-Match": '"1"' });
}
