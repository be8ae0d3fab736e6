import { Router } from "express";
import { ledgerFilterSchema, ledgerQuerySchema, openApi, type LedgerFilter } from "@still-pine/contract/http";
import { recordJsonSchema } from "@still-pine/contract/record";
import { csvHeader, csvRows } from "../../csv/ledger-csv";
import type { Db } from "../../db/pool";
import { listHorses } from "../../store/horses";
import { ledgerPage, ledgerPages, ledgerSums } from "../../store/ledger";
import type { Context } from "../app";
import { parseBody } from "../problems";
import { laidDown } from "../laid-down";

/** Everything that was recorded, in one table; and what this server says of itself. */
export function ledgerRoutes({ db, heavy, yard }: Context): Router {
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
    const { id } = await yard();
    await laidDown(heavy, response, (client) => {
      response
        .type("text/csv; charset=utf-8; header=present")
        .set("Content-Disposition", 'attachment; filename="ledger.csv"');
      return Promise.resolve(csvPieces(client, id, filter));
    });
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

async function* csvPieces(db: Db, yardId: string, filter: LedgerFilter): AsyncGenerator<string> {
  const names = new Map((await listHorses(db, yardId)).map(({ id, name }) => [id, name]));
  yield csvHeader();
  for await (const rows of ledgerPages(db, yardId, filter)) yield csvRows(rows, (id) => names.get(id) ?? "");
}
