import { Router } from "express";
import { ENDPOINTS, type OfflineName } from "@still-pine/contract/http";
import { ANSWERS } from "@still-pine/contract/views";
import { storedYard, stringText } from "../../views/stored-yard";
import type { Context } from "../context";
import { notFound } from "../problems";
import { serve, serveRaw, type Asked } from "../serve";

/** What an answer is about, as a refusal calls it. */
const ABOUT: Partial<Record<OfflineName, string>> = { step: "step", outing: "outing" };

/** What a phone answers by itself too, by the same functions: here from the database. */
export function offlineRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  // The lines lie there as JSON; they are handed on without being read.
  serveRaw(router, ENDPOINTS.string, async ({ response }) => {
    response.type("json").send(await stringText(db, await yard(), now()));
  });

  const answer = <Name extends OfflineName>(name: Name): void =>
    serve(router, ENDPOINTS[name], async ({ params, query }: Asked<(typeof ENDPOINTS)[Name]>) => {
      const found = await ANSWERS[name](storedYard(db, await yard(), now()), { params, query });
      if (found === null) throw notFound(ABOUT[name] ?? "horse");
      return found;
    });
  for (const name of Object.keys(ANSWERS) as OfflineName[]) if (name !== "string") answer(name);

  return router;
}
