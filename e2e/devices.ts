import type { RailView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { foldOuting, LiveOuting, type OutingPlan } from "@still-pine/core/outing";
import type { RecordEvent } from "@still-pine/core/record";
import { tellOfDevices } from "@still-pine/core/simulated";
import { InMemory, type KeptEvent } from "../web/src/outbox/kept";
import { Sender } from "../web/src/outbox/sender";

/** Simulated devices with the real outbox against a real server: what they send, lose on the way and send again. */

const STEPS = ["yield-hind", "flex", "yield-fore"];

interface Device {
  name: string;
  kept: InMemory;
  live: LiveOuting;
  sender: Sender;
  /** What the next answers are worth: lost ones never arrive though the server has taken the request. */
  link: { isLost: boolean };
}

const PLAN: OutingPlan = {
  program: loosePenStart,
  startedAt: "2026-06-10T10:00:00.000Z",
  exercises: [],
  known: [],
  caps: { workingMinutes: 20, inHandMinutes: 40 },
};

/**
 * Plays a story of devices against a server and compares what everybody ends with.
 *
 * @param url the server's address
 * @param horse a horse of its yard
 * @returns what is wrong, in words; nothing where all is well
 */
export async function playAgainst(url: string, horse: string, seed: number, length: number): Promise<string[]> {
  const story = tellOfDevices(seed, length, STEPS);
  // The same seed may have been played here before.
  const run = `${Date.now().toString(36)}-${seed}`;
  const outing = `${story.outing}-${run}`;
  const own = (event: RecordEvent): RecordEvent => {
    const text = JSON.stringify(event).replaceAll(story.outing, outing);
    return JSON.parse(text.replaceAll(/"(d\d+-\d+)(-\d+)?"/g, `"$1-${run}$2"`)) as RecordEvent;
  };
  const devices = new Map(story.devices.map((name) => [name, open(`${name}-${run}`, url)]));
  const at = (name: string): Device => {
    const device = devices.get(name);
    if (!device) throw new Error(`no device ${name}`);
    return device;
  };
  const meet = async (device: Device, act: { lost: boolean; repeated: boolean; reversed: boolean }): Promise<void> => {
    device.link.isLost = act.lost;
    if (act.reversed) await sendReversed(device);
    await device.sender.round();
    if (act.repeated) {
      const all = await device.kept.events(outing);
      await device.sender.sendEvents(all);
    }
    device.link.isLost = false;
    if (!act.lost) await follow(device, url, outing, horse);
  };

  for (const act of story.acts) {
    const device = at(act.device);
    if (act.do === "record") {
      const event = own(act.event);
      device.live.take(event);
      await device.kept.keepEvents([{ outing, horse, event, sent: 0 }]);
    } else if (act.do === "meet") await meet(device, act);
    else {
      device.live = new LiveOuting(PLAN);
      device.live.takeAll((await device.kept.events(outing)).map(({ event }) => event));
    }
  }
  for (const device of devices.values()) await meet(device, { lost: false, repeated: false, reversed: false });
  for (const device of devices.values()) await follow(device, url, outing, horse);

  const recorded = story.acts.flatMap((act) => (act.do === "record" ? [own(act.event)] : []));
  const onServer = await eventsOn(url, outing);
  const wrong: string[] = [];
  const ids = onServer.map(({ id }) => id);
  if (new Set(ids).size !== ids.length) wrong.push("the server has an event twice");
  for (const { id } of recorded) if (!ids.includes(id)) wrong.push(`the server has lost ${id}`);
  const whole = JSON.stringify(foldOuting(PLAN, onServer));
  for (const { name, kept, live } of devices.values()) {
    if (JSON.stringify(live.state) !== whole) wrong.push(`${name} ends with another fold than the server`);
    const counts = await kept.counts();
    const why = (await kept.refused()).map((one) => `${JSON.stringify(one.event)} ${one.refused}`);
    if (counts.waiting + counts.refused > 0) wrong.push(`${name}: ${counts.waiting} wait; refused: ${why.join(", ")}`);
  }
  return wrong.map((what) => `seed ${seed}: ${what}`);
}

function open(name: string, url: string): Device {
  const link = { isLost: false };
  const kept = new InMemory();
  const sender = new Sender({
    keeper: async () => kept,
    holding: new Map(),
    headers: () => ({}),
    now: () => Date.now(),
    stamp: () => {
      throw new Error("these clocks are told of in the story");
    },
    device: () => name,
    fetch: async (path, init) => {
      const answer = await fetch(`${url}${path}`, init);
      if (!link.isLost) return answer;
      await answer.arrayBuffer();
      throw new TypeError("lost on the way");
    },
  });
  return { name, kept, live: new LiveOuting(PLAN), sender, link };
}

/** The batch in another order than it was recorded. */
async function sendReversed(device: Device): Promise<void> {
  const waiting = (await device.kept.unsent()).toReversed();
  const done = await device.sender.sendEvents(waiting);
  if (typeof done !== "string") await device.kept.settle(done.events);
}

async function eventsOn(url: string, outing: string): Promise<RecordEvent[]> {
  const response = await fetch(`${url}/api/outings/${encodeURIComponent(outing)}/rail`);
  return response.ok ? [...((await response.json()) as RailView).events] : [];
}

/** Takes what the others handed over. */
async function follow(device: Device, url: string, outing: string, horse: string): Promise<void> {
  const known = new Set((await device.kept.events(outing)).map(({ event }) => event.id));
  const fresh = (await eventsOn(url, outing)).filter(({ id }) => !known.has(id));
  await device.kept.keepEvents(fresh.map((event): KeptEvent => ({ outing, horse, event, sent: 1 })));
  device.live.takeAll(fresh);
}
