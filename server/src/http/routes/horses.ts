import { Router } from "express";
import { batchSchema, horseFieldsSchema, newHorseSchema, type BatchResult } from "@still-pine/contract/http";
import { canonical } from "@still-pine/contract/record";
import { loosePenStart } from "@still-pine/core/programs";
import { describeChanges } from "@still-pine/core/readiness";
import { findHorse, insertHorse, updateHorse, type StoredHorse } from "../../store/horses";
import { takeEvents } from "../../store/take-events";
import { horseView, judgeHorse, outingView, stepView, stringView, yardOnly, type Judged } from "../../views/horse";
import type { Context } from "../app";
import { HttpProblem, notFound, parseBody } from "../problems";

export function horseRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  router.get("/yard", async (_request, response) => {
    response.json(await yardOnly(db, await yard(), now()));
  });

  router.get("/string", async (_request, response) => {
    response.json(await stringView(db, await yard(), now()));
  });

  router.post("/horses", async (request, response) => {
    const { id, ...fields } = parseBody(newHorseSchema, request.body);
    const { id: yardId } = await yard();
    const isNew = await insertHorse(db, yardId, { id, ...fields }, loosePenStart.id);
    const stored = await findHorse(db, yardId, id);
    if (!isNew && stored && canonical(fieldsOf(stored)) !== canonical(fields))
      throw new HttpProblem(409, "Already there", "Another horse has this id.", { current: fieldsOf(stored) });
    response.status(isNew ? 201 : 200).json({ id, version: stored?.version ?? 1 });
  });

  router.put("/horses/:horse", async (request, response) => {
    const fields = parseBody(horseFieldsSchema, request.body);
    const seen = readVersion(request.headers["if-match"]);
    const { id: yardId } = await yard();
    const updated = await updateHorse(db, yardId, request.params.horse, seen, fields);
    if (updated) {
      response.set("ETag", `"${updated.version}"`).json({ id: updated.id, version: updated.version });
      return;
    }
    const current = await findHorse(db, yardId, request.params.horse);
    if (!current) throw notFound("horse");
    throw new HttpProblem(
      412,
      "Changed meanwhile",
      "Somebody else changed this horse after you opened it. Choose between the two.",
      {
        current: { ...fieldsOf(current), version: current.version },
        yours: fields,
      },
    );
  });

  router.get("/horses/:horse", async (request, response) => {
    const view = await horseView(db, await yard(), request.params.horse, now());
    if (!view) throw notFound("horse");
    response.set("ETag", `"${view.horse.version}"`).json(view);
  });

  router.get("/horses/:horse/steps/:step", async (request, response) => {
    const view = await stepView(db, await yard(), request.params.horse, request.params.step, now());
    if (!view) throw notFound("step");
    response.json(view);
  });

  router.get("/horses/:horse/outings/:outing", async (request, response) => {
    const view = await outingView(db, await yard(), request.params.horse, request.params.outing, now());
    if (!view) throw notFound("outing");
    response.json(view);
  });

  router.post("/events", async (request, response) => {
    const { events } = parseBody(batchSchema, request.body);
    const home = await yard();
    const horses = [...new Set(events.map((one) => one.horse))];
    const before = await Promise.all(horses.map((id) => judgeHorse(db, home, id, now())));
    const results = await takeEvents(db, home.id, events);
    const after = await Promise.all(horses.map((id) => judgeHorse(db, home, id, now())));
    const body: BatchResult = {
      results,
      changes: horses.map((horse, index) => ({ horse, changes: changesOf(before[index], after[index]) })),
    };
    const refused = results.filter((one) => one.result === "refused");
    if (refused.length === 0) response.json(body);
    else
      throw new HttpProblem(
        422,
        "Not all stored",
        `${refused.length} of ${results.length} entries were refused; the others are stored.`,
        {
          errors: refused.flatMap((one) => one.why ?? []),
          ...body,
        },
      );
  });

  return router;
}

const fieldsOf = ({ name, foaled, foaledPrecision, sex }: StoredHorse) => ({ name, foaled, foaledPrecision, sex });

function readVersion(header: string | undefined): number {
  const version = /^(?:W\/)?"(\d{1,9})"$/.exec(header ?? "")?.[1];
  if (version === undefined)
    throw new HttpProblem(428, "Version missing", 'Send the version you saw in If-Match, such as "3".');
  return Number(version);
}

function changesOf(before: Judged | null | undefined, after: Judged | null | undefined) {
  return before && after ? describeChanges(before.judgements, after.judgements, after.program) : [];
}
