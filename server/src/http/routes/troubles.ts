import { Router } from "express";
import { idSchema } from "@still-pine/contract/record";
import { z } from "zod";
import { ENDPOINTS } from "@still-pine/contract/http";
import { dropTrouble, findTrouble, putTrouble } from "../../store/troubles";
import type { Context } from "../context";
import { changedMeanwhile, notFound, parseBody } from "../problems";
import { serve } from "../serve";

const newIdSchema = z.object({ trouble: idSchema });

/** Troubles the yard has added to the table of where to look. */
export function troubleRoutes({ db, yard }: Context): Router {
  const router = Router();

  serve(router, ENDPOINTS.putTrouble, async ({ params, body: fields, version: seen }) => {
    const { id: yardId } = await yard();
    // One that is here may have a longer id than any new one.
    const id = seen === 0 ? parseBody(newIdSchema, params).trouble : params.trouble;
    const stored = await putTrouble(db, yardId, id, seen, fields);
    if (stored) return stored;
    const current = await findTrouble(db, yardId, params.trouble);
    if (!current) throw notFound("trouble");
    const { name, seen: words, body, steps, version } = current;
    throw changedMeanwhile("this trouble", { name, seen: words, body, steps, version }, fields);
  });

  serve(router, ENDPOINTS.dropTrouble, async ({ params, version: seen }) => {
    const { id: yardId } = await yard();
    const current = await findTrouble(db, yardId, params.trouble);
    if (!current) throw notFound("trouble");
    if (!(await dropTrouble(db, yardId, current.id, seen)))
      throw changedMeanwhile("this trouble", { version: current.version }, {});
    return null;
  });

  return router;
}
