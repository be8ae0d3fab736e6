import { Router } from "express";
import { ENDPOINTS, type HorseFields } from "@still-pine/contract/http";
import { actorOf, notLetIn } from "../let-in";
import { takeFrom } from "../../access/take-from";
import { canonical, shown } from "@still-pine/contract/record";
import { dayIn, foalingSpan, type Day } from "@still-pine/core/record";
import { loosePenStart } from "@still-pine/core/programs";
import { inTransaction } from "../../db/pool";
import { addHorse, judgeLocked } from "../../read-models/rebuild";
import { findHorse, updateHorse } from "../../store/horses";
import { holdYard } from "../../store/yard";
import { horsePack, packView } from "../../views/pack";
import { underView } from "../../views/under";
import type { Context } from "../context";
import { changedMeanwhile, HttpProblem, notFound } from "../problems";
import { serve } from "../serve";

export function horseRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  serve(router, ENDPOINTS.addHorse, async ({ body: { id, ...fields }, response }) => {
    const home = await yard();
    refuseUnborn(fields, dayIn(home.timeZone, now()));
    const isNew = await inTransaction(db, (client) => addHorse(client, home, { id, ...fields }, loosePenStart, now()));
    const stored = await findHorse(db, home.id, id);
    if (!isNew && stored && canonical(fieldsOf(stored)) !== canonical(fields))
      throw new HttpProblem(409, "Already there", "Another horse has this id.", { current: fieldsOf(stored) });
    response.status(isNew ? 201 : 200);
    return { id, version: stored?.version ?? 1 };
  });

  serve(router, ENDPOINTS.changeHorse, async ({ params, body: fields, version: seen }) => {
    const home = await yard();
    refuseUnborn(fields, dayIn(home.timeZone, now()));
    const updated = await inTransaction(db, async (client) => {
      const held = await holdYard(client, home);
      const horse = await updateHorse(client, home.id, params.horse, seen, fields);
      if (horse) await judgeLocked(client, held, horse, now());
      return horse;
    });
    if (updated) return { id: updated.id, version: updated.version };
    const current = await findHorse(db, home.id, params.horse);
    if (!current) throw notFound("horse");
    throw changedMeanwhile("this horse", { ...fieldsOf(current), version: current.version }, fields);
  });

  serve(router, ENDPOINTS.pack, async () => packView(db, await yard()));

  serve(router, ENDPOINTS.horsePack, async ({ params }) => {
    const pack = await horsePack(db, await yard(), params.horse);
    if (!pack) throw notFound("horse");
    return pack;
  });

  serve(router, ENDPOINTS.under, async ({ params, query: { programs } }) => {
    const home = await yard();
    const horse = await findHorse(db, home.id, params.horse);
    if (!horse) throw notFound("horse");
    const wanted = programs?.map((id) => home.book.known(id) ?? refuseProgram(id)) ?? home.book.all;
    return underView(db, home, horse, wanted, now());
  });

  serve(router, ENDPOINTS.sendEvents, async ({ body: { events }, request }) => {
    const taken = await takeFrom(actorOf(request), db, await yard(), events, now());
    if (taken === "withdrawn") throw notLetIn("withdrawn");
    const refused = taken.results.filter((one) => one.result === "refused");
    if (refused.length === 0) return taken;
    throw new HttpProblem(
      422,
      "Not all stored",
      `${refused.length} of ${taken.results.length} entries were refused; the others are stored.`,
      { errors: refused.flatMap((one) => one.why ?? []), ...taken },
    );
  });

  return router;
}

function refuseProgram(id: string): never {
  throw new HttpProblem(400, "Bad input", "Some fields are not as expected.", {
    errors: [{ path: "programs", expected: "ids of programs this yard has", found: id }],
  });
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
