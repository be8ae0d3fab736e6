import { Router } from "express";
import { idSchema } from "@still-pine/contract/record";
import { z } from "zod";
import { troubleFieldsSchema } from "@still-pine/contract/http";
import { dropTrouble, findTrouble, listTroubles, putTrouble } from "../../store/troubles";
import type { Context } from "../context";
import { changedMeanwhile, notFound, parseBody, readVersion } from "../problems";

const newIdSchema = z.object({ trouble: idSchema });

/** Troubles the yard has added to the table of where to look. */
export function troubleRoutes({ db, yard }: Context): Router {
  const router = Router();

  router.get("/troubles", async (_request, response) => {
    response.json(await listTroubles(db, (await yard()).id));
  });

  router.put("/troubles/:trouble", async (request, response) => {
    const fields = parseBody(troubleFieldsSchema, request.body);
    const seen = readVersion(request.headers["if-match"]);
    const { id: yardId } = await yard();
    // One that is here may have a longer id than any new one.
    const id = seen === 0 ? parseBody(newIdSchema, request.params).trouble : request.params.trouble;
    const stored = await putTrouble(db, yardId, id, seen, fields);
    if (stored) {
      response.set("ETag", `"${stored.version}"`).json(stored);
      return;
    }
    const current = await findTrouble(db, yardId, request.params.trouble);
    if (!current) throw notFound("trouble");
    const { name, seen: words, body, steps, version } = current;
    throw changedMeanwhile("this trouble", { name, seen: words, body, steps, version }, fields);
  });

  router.post("/troubles/:trouble/drop", async (request, response) => {
    const seen = readVersion(request.headers["if-match"]);
    const { id: yardId } = await yard();
    const current = await findTrouble(db, yardId, request.params.trouble);
    if (!current) throw notFound("trouble");
    if (!(await dropTrouble(db, yardId, current.id, seen)))
      throw changedMeanwhile("this trouble", { version: current.version }, {});
    response.status(204).end();
  });

  return router;
}
