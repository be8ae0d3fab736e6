import { hash, verify } from "@node-rs/argon2";
import { Router, type Response } from "express";
import { ENDPOINTS, type HelloView } from "@still-pine/contract/http";
import { heldTo } from "../../access/actor";
import { askingOf, giveKey, keyOf, originOf } from "../let-in";
import { deviceTopic, laptopTopic, tell } from "../../live/hub";
import {
  changeDevice,
  findDevice,
  listDevices,
  lockLaptops,
  makeCode,
  MISSES_MOST,
  pair,
  unlock,
} from "../../store/devices";
import { horsesOfOutings } from "../../store/owners";
import { passPhraseHash, setPassPhraseHash } from "../../store/yard";
import type { Context } from "../context";
import { changedMeanwhile, HttpProblem, notFound } from "../problems";
import { serve } from "../serve";

/** Who is let in: codes, keys, the list of phones, the laptop's pass phrase. */
export function phoneRoutes({ db, now, yard, phones, isClockFixed }: Context): Router {
  const router = Router();

  serve(router, ENDPOINTS.hello, ({ request }): HelloView => {
    const { door, actor, why, yard: lock } = askingOf(request);
    const isIn = actor.kind !== "stranger";
    return {
      product: "still-pine",
      now: isClockFixed ? null : now(),
      door,
      who: actor.kind === "device" ? actor.rights : actor.kind,
      why,
      yard: isIn ? (lock?.id ?? null) : null,
      name: actor.kind === "device" ? actor.name : null,
      outing: heldTo(actor),
    };
  });

  serve(router, ENDPOINTS.pair, async ({ body: asked, request, response }) => {
    const { id } = await yard();
    const trying = {
      code: asked.code,
      name: asked.name.trim(),
      key: keyOf(request, "phones"),
      origin: originOf(request),
    };
    const done = await pair(db, id, trying, now());
    if (done.result === "pause") throw paused(response, done.seconds);
    if (done.result !== "in") throw NOT_A_CODE[done.result](done.triesLeft);
    giveKey(response, "phones", done.key, done.expiresAt);
    const { name, rights, outing, recorder } = done.device;
    response.status(201);
    return { yard: id, name, rights, outing, expiresAt: done.expiresAt, recorder };
  });

  serve(router, ENDPOINTS.unlock, async ({ body: { phrase }, request, response }) => {
    const { id } = await yard();
    if (askingOf(request).door !== "laptop")
      throw new HttpProblem(422, "Not here", "Phones are let in by a code, not by the pass phrase.");
    const stored = await passPhraseHash(db, id);
    if (stored === null) throw new HttpProblem(422, "Not locked", "This yard has no pass phrase.");
    const done = await unlock(db, id, () => verify(stored, phrase), originOf(request), now());
    if (done.result === "pause") throw paused(response, done.seconds);
    if (done.result === "wrong") throw new HttpProblem(422, "Not it", "That is not the yard's pass phrase.");
    giveKey(response, "laptop", done.key, done.expiresAt);
    return null;
  });

  serve(router, ENDPOINTS.setPassPhrase, async ({ body: { phrase, current }, request, response }) => {
    const { id } = await yard();
    const stored = await passPhraseHash(db, id);
    const done = await unlock(
      db,
      id,
      async () => stored === null || verify(stored, current ?? ""),
      originOf(request),
      now(),
    );
    if (done.result === "pause") throw paused(response, done.seconds);
    if (done.result === "wrong") throw new HttpProblem(422, "Not it", "That is not the present pass phrase.");
    await setPassPhraseHash(db, id, phrase === null ? null : await hash(phrase));
    // Whoever sets it has it; every other browser types the new one.
    await lockLaptops(db, id, done.key, now());
    await tell(db, [laptopTopic(id)]);
    giveKey(response, "laptop", done.key, done.expiresAt);
    return null;
  });

  serve(router, ENDPOINTS.makeCode, async ({ body: asked, request, response }) => {
    const { id } = await yard();
    if (asked.rights === "all" && askingOf(request).actor.kind !== "laptop")
      throw new HttpProblem(403, "Not yours to do", "All rights are given on the laptop alone.");
    if (asked.rights === "write" && !(await horsesOfOutings(db, id, [asked.outing])).has(asked.outing))
      throw notFound("outing");
    const outing = asked.rights === "write" ? asked.outing : null;
    const { code, expiresAt } = await makeCode(
      db,
      id,
      outing === null ? { rights: "all", outing } : { rights: "write", outing },
      now(),
    );
    const address = phones()?.address;
    response.status(201);
    return { code, expiresAt, address: address ? `${address}/join#${code}` : null };
  });

  serve(router, ENDPOINTS.phones, async () => {
    const { id } = await yard();
    const open = phones();
    return {
      address: open?.address ?? null,
      trustAddress: open?.trustAddress ?? null,
      fingerprint: open?.fingerprint ?? null,
      hasPassPhrase: (await passPhraseHash(db, id)) !== null,
      devices: await listDevices(db, id, now()),
    };
  });

  serve(router, ENDPOINTS.changeDevice, async ({ params: { device }, body: fields, version: seen }) => {
    const { id: yardId } = await yard();
    const changed = await changeDevice(db, yardId, device, seen, { ...fields, name: fields.name.trim() }, now());
    if (changed) {
      if (!fields.isIn) await tell(db, [deviceTopic(yardId, changed.id)]);
      return changed;
    }
    const current = await findDevice(db, yardId, device);
    if (!current) throw notFound("phone");
    throw changedMeanwhile("this phone", current, fields);
  });

  return router;
}

const tries = (left: number): string =>
  left <= 0
    ? "No code is taken from here for a while now; each wrong one makes the wait longer."
    : left === 1
      ? "One more try, then a pause of five minutes."
      : `${left} more tries before a pause of five minutes.`;

const NOT_A_CODE: Record<"unknown" | "used" | "expired", (left: number) => HttpProblem> = {
  unknown: (left) => new HttpProblem(422, "No such code", `There is no such code; look at it again. ${tries(left)}`),
  used: (left) =>
    new HttpProblem(
      410,
      "Used already",
      `This code has let a phone in already; make a new one on the laptop. ${tries(left)}`,
    ),
  expired: (left) =>
    new HttpProblem(410, "Too late", `A code is good for five minutes; make a new one on the laptop. ${tries(left)}`),
};

function paused(response: Response, seconds: number): HttpProblem {
  response.set("Retry-After", String(seconds));
  return new HttpProblem(
    429,
    "A pause",
    `${MISSES_MOST} tries or more from here were wrong. Try again in ${seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`}.`,
    { seconds },
  );
}
