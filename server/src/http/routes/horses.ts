import { Router } from "express";
import {
  batchSchema,
  checkUpQuerySchema,
  diaryQuerySchema,
  underQuerySchema,
  horseFieldsSchema,
  newHorseSchema,
  type HorseFields,
} from "@still-pine/contract/http";
import { actorOf, notLetIn } from "../../access/let-in";
import { takeFrom } from "../../access/take-from";
import { canonical, shown } from "@still-pine/contract/record";
import { dayIn, foalingSpan, type Day } from "@still-pine/core/record";
import { loosePenStart } from "@still-pine/core/programs";
import { inTransaction } from "../../db/pool";
import { addHorse, judgeLocked } from "../../read-models/rebuild";
import { findHorse, updateHorse } from "../../store/horses";
import { holdYard } from "../../store/yard";
import { briefView } from "../../views/brief";
import { horsePack, packView } from "../../views/pack";
import { diary, feelView, horseView, outingView, stepView, stringText } from "../../views/horse";
import { checkUpView } from "../../views/check-up";
import { underView } from "../../views/under";
import type { Context } from "../context";
import { changedMeanwhile, HttpProblem, notFound, parseBody, readVersion } from "../problems";

export function horseRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  router.get("/string", async (_request, response) => {
    response.type("json").send(await stringText(db, await yard(), now()));
  });

  router.post("/horses", async (request, response) => {
    const { id, ...fields } = parseBody(newHorseSchema, request.body);
    const home = await yard();
    refuseUnborn(fields, dayIn(home.timeZone, now()));
    const isNew = await inTransaction(db, (client) =>
      addHorse(client, home, { id, ...fields }, loosePenStart.id, now()),
    );
    const stored = await findHorse(db, home.id, id);
    if (!isNew && stored && canonical(fieldsOf(stored)) !== canonical(fields))
      throw new HttpProblem(409, "Already there", "Another horse has this id.", { current: fieldsOf(stored) });
    response.status(isNew ? 201 : 200).json({ id, version: stored?.version ?? 1 });
  });

  router.put("/horses/:horse", async (request, response) => {
    const fields = parseBody(horseFieldsSchema, request.body);
    const seen = readVersion(request.headers["if-match"]);
    const home = await yard();
    refuseUnborn(fields, dayIn(home.timeZone, now()));
    const updated = await inTransaction(db, async (client) => {
      const held = await holdYard(client, home);
      const horse = await updateHorse(client, home.id, request.params.horse, seen, fields);
      if (horse) await judgeLocked(client, held, horse, now());
      return horse;
    });
    if (updated) {
      response.set("ETag", `"${updated.version}"`).json({ id: updated.id, version: updated.version });
      return;
    }
    const current = await findHorse(db, home.id, request.params.horse);
    if (!current) throw notFound("horse");
    throw changedMeanwhile("this horse", { ...fieldsOf(current), version: current.version }, fields);
  });

  router.get("/horses/:horse", async (request, response) => {
    const view = await horseView(db, await yard(), request.params.horse, now());
    if (!view) throw notFound("horse");
    response.json(view);
  });

  router.get("/pack", async (_request, response) => {
    response.json(await packView(db, await yard()));
  });

  router.get("/horses/:horse/pack", async (request, response) => {
    const pack = await horsePack(db, await yard(), request.params.horse);
    if (!pack) throw notFound("horse");
    response.json(pack);
  });

  router.get("/horses/:horse/outings", async (request, response) => {
    const { skip } = parseBody(diaryQuerySchema, request.query);
    const page = await diary(db, await yard(), request.params.horse, skip);
    if (!page) throw notFound("horse");
    response.json(page);
  });

  router.get("/horses/:horse/check-up", async (request, response) => {
    const asked = parseBody(checkUpQuerySchema, request.query);
    const view = await checkUpView(db, await yard(), request.params.horse, asked, now());
    if (!view) throw notFound("horse");
    response.json(view);
  });

  router.get("/horses/:horse/under", async (request, response) => {
    const { programs } = parseBody(underQuerySchema, request.query);
    const home = await yard();
    const view = await underView(db, home, request.params.horse, programs ?? home.book.all.map(({ id }) => id), now());
    if (!view) throw notFound("horse");
    response.json(view);
  });

  router.get("/horses/:horse/brief", async (request, response) => {
    const view = await briefView(db, await yard(), request.params.horse, now());
    if (!view) throw notFound("horse");
    response.json(view);
  });

  router.get("/horses/:horse/feel", async (request, response) => {
    const view = await feelView(db, await yard(), request.params.horse);
    if (!view) throw notFound("horse");
    response.json(view);
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
    const taken = await takeFrom(actorOf(request), db, await yard(), events, now());
    if (taken === "withdrawn") throw notLetIn("withdrawn");
    const refused = taken.results.filter((one) => one.result === "refused");
    if (refused.length === 0) response.json(taken);
    else
      throw new HttpProblem(
        422,
        "Not all stored",
        `${refused.length} of ${taken.results.length} entries were refused; the others are stored.`,
        { errors: refused.flatMap((one) => one.why ?? []), ...taken },
      );
  });

  return router;
}

/** A foaling day is one that has been; what a record brings in may be mistyped all the same. */
function refuseUnborn({ foaled, foaledPrecision }: HorseFields, today: Day): void {
  if (foalingSpan(foaled, foaledPrecision).first <= today) return;
  throw new HttpProblem(400, "Bad input", "Some fields are not as expected.", {
    errors: [{ path: "foaled", expected: `a day that has been, ${today} at the latest`, found: shown(foaled) }],
  });
}

const fieldsOf = ({ name, foaled, foaledPrecision, sex }: HorseFields): HorseFields => ({
  name,
  foaled,
  foaledPrecision,
  sex,
});
