import compression from "compression";
import express, { type Express } from "express";
import helmet from "helmet";
import type { Pool } from "pg";
import { loadYard, type Yard } from "../store/yard";
import { atMost, ownPagesOnly, readableAddress } from "./guard";
import { HttpProblem, problemHandler } from "./problems";
import { horseRoutes } from "./routes/horses";
import { ledgerRoutes } from "./routes/ledger";
import { mediaRoutes } from "./routes/media";
import { recordRoutes } from "./routes/records";
import { yardRoutes } from "./routes/yard";

export interface AppSettings {
  db: Pool;
  /** Where the built web application lies; absent in server tests. */
  webFolder?: string;
  /** The port it listens on, for the check of Host and Origin. */
  port: () => number;
  /** The clock; fixed for screenshots and tests. */
  now: () => string;
}

/** What every route works with. */
export interface Context {
  db: Pool;
  now: () => string;
  yard: () => Promise<Yard>;
}

const BODY_MOST = 1024 * 1024;
const YEAR_SECONDS = 31_536_000;

export function createApp(settings: AppSettings): Express {
  const app = express();
  app.disable("x-powered-by");
  app.set("etag", false);
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // Radix places its layers with style attributes; scripts stay strict.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", "data:", "blob:"],
          mediaSrc: ["'self'", "blob:"],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(ownPagesOnly(settings.port));
  // Answers are made anew each time: the quickest level serves them sooner than the smallest. Pages and scripts are made small.
  app.use("/api", compression({ level: 1 }));
  app.use(compression());

  app.use(readableAddress);
  // What was true a moment ago is not shown again after an event was stored.
  app.use("/api", (_request, response, next) => {
    response.set("Cache-Control", "no-store");
    next();
  });

  const context = createContext(settings);
  // These read bodies of their own kinds and sizes.
  app.use("/api", recordRoutes(context), mediaRoutes(context));
  app.use(
    "/api",
    atMost(BODY_MOST),
    express.json({ limit: BODY_MOST }),
    horseRoutes(context),
    yardRoutes(context),
    ledgerRoutes(context),
  );
  app.use("/api", (request) => {
    throw new HttpProblem(404, "Not found", `There is no ${request.method} ${request.path} here.`);
  });

  if (settings.webFolder) {
    const folder = settings.webFolder;
    app.use(
      "/assets",
      express.static(`${folder}/assets`, { immutable: true, maxAge: YEAR_SECONDS * 1000, index: false }),
    );
    app.use(express.static(folder, { index: false, maxAge: 0 }));
    app.get("/{*page}", (_request, response) =>
      response.set("Cache-Control", "no-cache").sendFile("index.html", { root: folder }),
    );
  }
  app.use(problemHandler);
  return app;
}

function createContext({ db, now }: AppSettings): Context {
  return {
    db,
    now,
    yard: async () => {
      const yard = await loadYard(db);
      if (!yard)
        throw new HttpProblem(503, "No yard", "The database holds no yard yet. Start Still Pine with bin/start.");
      return yard;
    },
  };
}
