import { Router } from "express";
import { createSession } from "better-sse";
import { ENDPOINTS } from "@still-pine/contract/http";
import { foldRecord } from "@still-pine/core/record";
import { actorOf, isStillLetIn } from "../let-in";
import { deviceTopic, laptopTopic, outingTopic, type LiveHub } from "../../live/hub";
import { horsesOfOutings } from "../../store/owners";
import { cameWith, findHorse } from "../../store/horses";
import { loadLabels, withLabels } from "../../store/labels";
import { eventsAfter, findPlan, keepPlan } from "../../store/live";
import { toRecord } from "../../store/record";
import type { Context } from "../context";
import { notFound } from "../problems";
import { serve, serveRaw } from "../serve";

/** Events that are read at a time on their way to a device. */
const AT_A_TIME = 500;

/** Outings that run, and what comes in of them. */
export function liveRoutes(context: Context, hub: LiveHub): Router {
  const { db, now, yard } = context;
  const router = Router();

  serve(router, ENDPOINTS.keepPlan, async ({ params: { outing }, body: plan }) => {
    const { id } = await yard();
    const owner = (await horsesOfOutings(db, id, [outing])).get(outing);
    if (owner !== plan.horse) throw notFound("outing");
    await keepPlan(db, id, outing, plan);
    return null;
  });

  serve(router, ENDPOINTS.rail, async ({ params: { outing } }) => {
    const home = await yard();
    const owner = (await horsesOfOutings(db, home.id, [outing])).get(outing);
    const horse = owner === undefined ? null : await findHorse(db, home.id, owner);
    if (!horse) throw notFound("outing");
    const labels = await loadLabels(db, home.id);
    const arrived = await eventsAfter(db, home.id, outing, 0, Number.MAX_SAFE_INTEGER);
    const events = arrived.map(({ event }) => withLabels(event, labels));
    const record = toRecord(
      home,
      horse,
      events.map((event) => ({ horseId: horse.id, outingId: outing, event })),
    );
    const [folded] = foldRecord(record).outings;
    const { program: id, programVersion: version }: Record<string, unknown> = { ...folded?.head };
    const program = typeof id === "string" ? home.book.find(id) : home.book.goneBy(cameWith(horse));
    const wanted = typeof version === "number" ? version : program.version;
    const programFile = home.book.files.find((one) => one.id === program.id && one.version === wanted);
    return {
      outing,
      horse: horse.id,
      horseName: horse.name,
      timeZone: home.timeZone,
      words: home.words,
      program: { id: program.id, version: wanted },
      ...(programFile ? { programFile } : {}),
      startedAt: folded?.startedAt ?? now(),
      isOver: events.some(({ type }) => type === "outing-end"),
      plan: await findPlan(db, home.id, outing),
      events,
      arrival: arrived.at(-1)?.arrival ?? 0,
    };
  });

  serveRaw(router, ENDPOINTS.live, async ({ params: { outing }, query: { after }, request, response }) => {
    const home = await yard();
    if (!(await horsesOfOutings(db, home.id, [outing])).has(outing)) throw notFound("outing");
    // A stream has no end that could be waited for; what is asked is whether there is one.
    if (request.method === "HEAD") {
      response.type("text/event-stream").end();
      return;
    }
    const actor = actorOf(request);
    // Each event goes out at once: compressed, it would wait for company.
    response.set("Cache-Control", "no-store, no-transform");
    const session = await createSession(request, response, { keepAlive: KEEP_ALIVE_MS, retry: RETRY_MS });
    let last = Math.max(after, Number(session.lastId) || 0);
    let pumping: Promise<void> | null = null;
    let isDue = false;
    const pumpOnce = async (): Promise<void> => {
      while (isDue && session.isConnected) {
        isDue = false;
        const arrived = await eventsAfter(db, home.id, outing, last, AT_A_TIME);
        if (arrived.length === 0) continue;
        const labels = await loadLabels(db, home.id);
        if (!session.isConnected) return;
        if (actor.kind === "device" && actor.expiresAt <= Date.parse(now())) {
          response.end();
          return;
        }
        for (const { arrival, event } of arrived) {
          session.push(withLabels(event, labels), "event", String(arrival));
          last = arrival;
        }
        isDue ||= arrived.length === AT_A_TIME;
      }
    };
    /** Sends what is new; told again while it does, it looks once more. */
    const pump = (): void => {
      isDue = true;
      pumping ??= pumpOnce()
        // The database is away; the device asks again by itself.
        .catch(() => void response.end())
        .finally(() => {
          pumping = null;
          if (isDue && session.isConnected) pump();
        });
    };
    const stops: (() => void)[] = [];
    const end = (): void => {
      for (const stop of stops) stop();
      stops.length = 0;
    };
    session.once("disconnected", end);
    try {
      stops.push(await hub.wait(outingTopic(home.id, outing), pump));
      // Woken too when the listening connection was lost: then nothing may have changed.
      const lookAgain = (): void =>
        void isStillLetIn(request, context).then(
          (isIn) => void (isIn || response.end()),
          () => response.end(),
        );
      if (actor.kind === "laptop") stops.push(await hub.wait(laptopTopic(home.id), lookAgain));
      if (actor.kind === "device") {
        stops.push(await hub.wait(deviceTopic(home.id, actor.id), lookAgain));
        // Whose time has run out hears nothing more. One that is used goes on for longer; it asks again by itself.
        const left = Math.min(TIMER_MOST_MS, actor.expiresAt - Date.parse(now()));
        const timer = setTimeout(() => response.end(), left);
        stops.push(() => clearTimeout(timer));
      }
    } catch {
      response.end();
    }
    if (session.isConnected) pump();
    else end();
  });

  return router;
}

/** So often a line that says nothing, so that no box on the way takes the quiet for an end. */
const KEEP_ALIVE_MS = 15_000;
const RETRY_MS = 1500;
/** Longer than this no timer runs. */
const TIMER_MOST_MS = 2 ** 31 - 1;
