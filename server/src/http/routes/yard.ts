import { Router } from "express";
import { ENDPOINTS, type YardFields } from "@still-pine/contract/http";
import { inTransaction } from "../../db/pool";
import { rebuildWithin } from "../../read-models/rebuild";
import { estimateDays } from "@still-pine/core/evidence";
import { readDaySums } from "../../store/horse-states";
import { dropWordsAnew, listWordsAnew } from "../../store/words-anew";
import { storedYard } from "../../views/stored-yard";
import { findLabel, relabel } from "../../store/labels";
import { holdYard, updateYard } from "../../store/yard";
import type { Context } from "../context";
import { changedMeanwhile, HttpProblem, notFound } from "../problems";
import { serve } from "../serve";

const KINDS = [
  { declared: ENDPOINTS.relabelPlace, kind: "place" },
  { declared: ENDPOINTS.relabelPerson, kind: "person" },
] as const;

/** The yard's settings, its places and its people. */
export function yardRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  serve(router, ENDPOINTS.changeYard, async ({ body: fields, version: seen }) => {
    const before = await yard();
    const updated = await inTransaction(db, async (client) => {
      // Another zone, other days: everything is counted anew, and nobody writes by the former days meanwhile.
      const isOtherZone = fields.timeZone !== before.timeZone;
      const held = await holdYard(client, before, isOtherZone ? "alone" : "together");
      const after = await updateYard(client, held, seen, fields);
      if (after && isOtherZone) await rebuildWithin(client, { ...held, ...after }, now());
      return after;
    });
    if (!updated) {
      const current = await yard();
      throw changedMeanwhile("the settings", { ...fieldsOf(current), version: current.version }, fields);
    }
    return { id: updated.id, version: updated.version };
  });

  serve(router, ENDPOINTS.yardDays, async () => estimateDays(await readDaySums(db, (await yard()).id)));

  serve(router, ENDPOINTS.wordsAnew, async () => {
    const home = await yard();
    const anew = await listWordsAnew(db, home.id);
    // The String asks at every opening, and mostly there is nothing to tell.
    if (anew.length === 0) return [];
    const lines = await storedYard(db, home, now()).lines();
    return anew.flatMap(({ horse, words }) => {
      const line = lines.find(({ id }) => id === horse);
      return line ? [{ id: horse, name: line.name, program: line.program, words }] : [];
    });
  });

  serve(router, ENDPOINTS.readWordsAnew, async () => {
    await dropWordsAnew(db, (await yard()).id);
    return null;
  });

  for (const { declared, kind } of KINDS)
    serve(router, declared, async ({ params, body: { label }, version: seen }) => {
      const { id: yardId } = await yard();
      const row = await relabel(db, yardId, kind, params.label, seen, label.trim());
      if (row === "taken")
        throw new HttpProblem(409, "Already there", `Another ${kind} has the label ${JSON.stringify(label.trim())}.`);
      if (row) return row;
      const current = await findLabel(db, yardId, kind, params.label);
      if (!current) throw notFound(kind);
      throw changedMeanwhile(`this ${kind}`, { label: current.label, version: current.version }, { label });
    });

  return router;
}

const fieldsOf = ({ name, timeZone, units, words }: YardFields): YardFields => ({ name, timeZone, units, words });
