import { Router } from "express";
import { ENDPOINTS, openApi } from "@still-pine/contract/http";
import { recordJsonSchema } from "@still-pine/contract/record";
import { ledgerPage, ledgerSums } from "../../store/ledger";
import type { Context } from "../context";
import { laidDown } from "../laid-down";
import { serve, serveRaw } from "../serve";

/** Everything that was recorded, in one table; and what this server says of itself. */
export function ledgerRoutes(context: Context): Router {
  const { db, yard } = context;
  const router = Router();

  serve(router, ENDPOINTS.ledger, async ({ query }) => ledgerPage(db, (await yard()).id, query));

  serve(router, ENDPOINTS.ledgerSums, async ({ query }) => ledgerSums(db, (await yard()).id, query));

  serveRaw(router, ENDPOINTS.ledgerCsv, async ({ query: filter, response }) => {
    response
      .type("text/csv; charset=utf-8; header=present")
      .set("Content-Disposition", 'attachment; filename="ledger.csv"');
    await laidDown(context, response, { what: "ledger", filter });
  });

  let described: string | undefined;
  serveRaw(router, ENDPOINTS.openApi, ({ response }) => {
    response.type("json").send((described ??= JSON.stringify(openApi())));
  });
  let schema: string | undefined;
  serveRaw(router, ENDPOINTS.recordSchema, ({ response }) => {
    response.type("json").send((schema ??= JSON.stringify(recordJsonSchema())));
  });

  return router;
}
