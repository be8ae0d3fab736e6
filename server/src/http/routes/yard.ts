import { Router } from "express";
import { labelFieldsSchema, yardFieldsSchema, type YardFields } from "@still-pine/contract/http";
import { inTransaction } from "../../db/pool";
import { rebuildWithin } from "../../read-models/rebuild";
import { findLabel, listLabels, relabel, type LabelKind } from "../../store/labels";
import { holdYard, updateYard } from "../../store/yard";
import { yardOnly } from "../../views/horse";
import type { Context } from "../context";
import { changedMeanwhile, HttpProblem, notFound, parseBody, readVersion } from "../problems";

const KINDS: readonly { path: string; kind: LabelKind }[] = [
  { path: "places", kind: "place" },
  { path: "people", kind: "person" },
];

/** The yard's settings, its places and its people. */
export function yardRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  router.get("/yard", async (_request, response) => {
    response.json(await yardOnly(db, await yard(), now()));
  });

  router.put("/yard", async (request, response) => {
    const fields = parseBody(yardFieldsSchema, request.body);
    const seen = readVersion(request.headers["if-match"]);
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
    response.set("ETag", `"${updated.version}"`).json({ id: updated.id, version: updated.version });
  });

  for (const { path, kind } of KINDS) {
    router.get(`/${path}`, async (_request, response) => {
      response.json(await listLabels(db, (await yard()).id, kind));
    });

    router.put(`/${path}/:label`, async (request, response) => {
      const { label } = parseBody(labelFieldsSchema, request.body);
      const seen = readVersion(request.headers["if-match"]);
      const { id: yardId } = await yard();
      const row = await relabel(db, yardId, kind, request.params.label, seen, label.trim());
      if (row === "taken")
        throw new HttpProblem(409, "Already there", `Another ${kind} has the label ${JSON.stringify(label.trim())}.`);
      if (row) {
        response.set("ETag", `"${row.version}"`).json(row);
        return;
      }
      const current = await findLabel(db, yardId, kind, request.params.label);
      if (!current) throw notFound(kind);
      throw changedMeanwhile(`this ${kind}`, { label: current.label, version: current.version }, { label });
    });
  }

  return router;
}

const fieldsOf = ({ name, timeZone, units, words }: YardFields): YardFields => ({ name, timeZone, units, words });
