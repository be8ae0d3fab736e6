import {
  addDays,
  type BodyOf,
  type Day,
  type HorseRecord,
  type Outing,
  type Part,
  type RecordEvent,
  type Setting,
} from "../../record";
import { inFull } from "../../evidence";
import { sideFields } from "../../programs";
import { judgeState } from "../judge";
import { tryOuting } from "../least-work";
import type { Gathered, StepState } from "../states";
import type { OpenAction } from "../types";

/** A horse that does just what is listed, clean, quiet and true: to prove that what would open a step does. For tests. */

/** What to do with one step: the actions listed for it, and what of it another step wants to have seen. */
interface Task {
  state: StepState;
  actions: readonly OpenAction[];
  show: readonly string[];
}

/** The step an action names, as far as the rung it names. */
function stateOf(gathered: Gathered, { step = "", what = "" }: OpenAction): StepState {
  const state = gathered.byId.get(step);
  if (!state) throw new Error(`no step ${step}`);
  const rung = /^rung ([^,]+)/.exec(what)?.[1];
  return state.variants.find((one) => String(one.rung) === rung) ?? state;
}

/** Everything an action of a step stands for, needs first; each step once. */
export function tasksFor(
  gathered: Gathered,
  state: StepState,
  actions: readonly OpenAction[],
  today: Day,
  tasks = new Map<StepState, Task>(),
): Map<StepState, Task> {
  for (const action of actions) {
    if (action.code !== "rests-on") continue;
    const under = stateOf(gathered, action);
    const show = (action.what ?? "").split(", ").filter((what) => what !== "" && !what.startsWith("rung "));
    const before = tasks.get(under);
    if (before) tasks.set(under, { ...before, show: [...before.show, ...show] });
    else {
      const own = judgeState(gathered, under, today).toOpen;
      tasksFor(gathered, under, own, today, tasks);
      tasks.set(under, { state: under, actions: own.filter(({ code }) => code !== "rests-on"), show });
    }
  }
  tasks.set(state, { state, actions: actions.filter(({ code }) => code !== "rests-on"), show: [] });
  return tasks;
}

const DAY_CODES = ["different-days", "cold-asks", "relaxed"];

/** The record after the tasks were done, from today on; each side of a step in outings of its own. */
export function perform(record: HorseRecord, gathered: Gathered, tasks: Map<StepState, Task>, today: Day): HorseRecord {
  const outings: (Outing & { key: string })[] = [];
  let made = 0;
  gathered.inOrder.forEach((state, order) => {
    const task = tasks.get(state);
    if (!task) return;
    state.sides.forEach((side) => {
      const own = task.actions.filter((action) => (action.side ?? "none") === side.side);
      if (own.length === 0 && task.show.length === 0) return;
      const count = (test: (action: OpenAction) => boolean): number => own.find(test)?.count ?? 0;
      const byDays = own.find(({ code, what }) => DAY_CODES.includes(code) || what === "days");
      const places = count(({ code, what }) => code === "elsewhere" && what === "place");
      const people = count(({ code, what }) => code === "elsewhere" && what === "person");
      const elsewhere = own.find(({ code, what = "" }) => code === "elsewhere" && /standing|moving/.test(what));
      const settings = elsewhere?.what?.split(" and ").slice(0, elsewhere.count) ?? [];
      const sessions = Math.max(byDays?.count ?? 1, places, people, 1);
      const asks = Math.max(
        count(({ code }) => code === "clean-share" || code === "light"),
        sessions,
        settings.length,
      );
      const needsNewDay = byDays?.code === "different-days" || byDays?.what === "days";
      const wait = needsNewDay && side.evidence.lastDay === today ? 1 : 0;
      const { standard } = side.evidence;
      // A lucky answer is proven by his first one, and shows its place and person then.
      const isPending = side.evidence.lucky().length > 0;
      const shown = isPending ? tryOuting(side.evidence, today, 1, true).shown : side.evidence.shown;
      const { visits } = side.evidence;
      let left = asks;
      for (let n = 0; n < sessions; n += 1) {
        // Where no further days are asked for, other places and people may come on one day.
        const day = addDays(today, byDays ? wait + Math.min(n, (byDays.count ?? 1) - 1) : 0);
        const isLast = n === sessions - 1;
        const events: RecordEvent[] = [];
        const stamp = (): { id: string; at: string } => ({
          id: `p${(made += 1)}`,
          at: new Date(Date.parse(`${day}T14:00:00Z`) + made * 10).toISOString(),
        });
        const ask = (more: Partial<BodyOf<"ask">>): void => {
          const dose = state.step.standard.dose;
          events.push({
            ...stamp(),
            type: "ask",
            v: 2,
            ...inFull(state.step),
            step: state.step.id,
            ...sideFields(side.side),
            answer: "gave",
            ...(standard.phase === null ? {} : { phase: standard.phase }),
            mood: standard.mood,
            ...(dose?.unit === "rung" ? { asked: dose.amount, dose: dose.amount } : {}),
            ...more,
          });
        };
        const now = isLast ? left : 1;
        for (let k = 0; k < now; k += 1) {
          const setting = (settings.shift() ?? shown.settings[0]) as Setting | undefined;
          ask(setting ? { setting } : {});
        }
        left -= now;
        if (isLast)
          for (const what of new Set(task.show))
            if (what === "canter") events.push({ ...stamp(), type: "gait", gait: "canter" });
            else ask(what === "moving" || what === "standing" ? { setting: what } : { part: what as Part });
        if (isLast && own.some(({ code }) => code === "not-proven-relaxed"))
          events.push({ ...stamp(), type: "sign", sign: "yawn" });
        if (isLast && own.some(({ what }) => what === "stretch"))
          events.push({ ...stamp(), type: "frame", frame: "stretches" });
        const first = events[0]?.at ?? "";
        outings.push({
          key: `${day} ${String(n).padStart(2, "0")} ${String(order).padStart(4, "0")}`,
          id: `perfect-${made}`,
          startedAt: first,
          endedAt: events.at(-1)?.at ?? first,
          place: elsewhereName("place", n, places, shown.places, visits.flatMap((one) => one.place ?? [])[0]),
          handler: elsewhereName("person", n, people, shown.people, visits.flatMap((one) => one.person ?? [])[0]),
          events,
        });
      }
    });
  });
  // Within a day what lies lower goes first.
  const ordered = outings
    .toSorted((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : 0))
    .map(({ key, ...outing }, index) => move(outing, key.slice(0, 10), index));
  return { ...record, outings: [...record.outings, ...ordered] };
}

/** The outing again at a time of its day by its place in the order. */
function move(outing: Outing, day: Day, index: number): Outing {
  const start = Date.parse(`${day}T14:00:00Z`) + index * 10_000;
  return {
    ...outing,
    startedAt: new Date(start).toISOString(),
    endedAt: new Date(start + 9000).toISOString(),
    events: outing.events.map((event, n) => ({ ...event, at: new Date(start + n * 20).toISOString() })),
  };
}

/** New names first, where so many are asked for, and else the usual one; where none was shown yet the usual one is one of them. */
function elsewhereName(kind: string, n: number, count: number, shown: readonly string[], seen?: string): string {
  const fresh = count - (shown.length === 0 ? 1 : 0);
  return n < fresh ? `another ${kind} ${n}` : (shown[0] ?? seen ?? `the usual ${kind}`);
}
