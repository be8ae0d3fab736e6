import { Router } from "express";
import { ledgerFilterSchema, ledgerQuerySchema, openApi } from "@still-pine/contract/http";
import { recordJsonSchema } from "@still-pine/contract/record";
import { ledgerPage, ledgerSums } from "../../store/ledger";
import type { Context } from "../context";
import { parseBody } from "../problems";
import { laidDown } from "../laid-down";

/** Everything that was recorded, in one table; and what this server says of itself. */
export function ledgerRoutes(context: Context): Router {
  const { db, yard } = context;
  const router = Router();

  router.get("/ledger", async (request, response) => {
    const query = parseBody(ledgerQuerySchema, request.query);
    response.json(await ledgerPage(db, (await yard()).id, query));
  });

  router.get("/ledger/sums", async (request, response) => {
    const filter = parseBody(ledgerFilterSchema, request.query);
    response.json(await ledgerSums(db, (await yard()).id, filter));
  });

  router.get("/ledger.csv", async (request, response) => {
    const filter = parseBody(ledgerFilterSchema, request.query);
    response
      .type("text/csv; charset=utf-8; header=present")
      .set("Content-Disposition", 'attachment; filename="ledger.csv"');
    await laidDown(context, response, { what: "ledger", filter });
  });

  let described: string | undefined;
  router.get("/openapi.json", (_request, response) => {
    response.type("json").send((described ??= JSON.stringify(openApi())));
  });
  let schema: string | undefined;
  router.get("/horse-record.schema.json", (_request, response) => {
    response.type("json").send((schema ??= JSON.stringify(recordJsonSchema())));
  });

  return router;
}
