import compression from "compression";
import express, { type Express } from "express";
import helmet from "helmet";
import type { Pool } from "pg";
import { letIn } from "./let-in";
import { layDown as doLayDown } from "../archive/go-out";
import type { DoJob, DoLayDown } from "../archive/in-thread";
import { doJob } from "../archive/jobs";
import { LiveHub } from "../live/hub";
import { loadYard } from "../store/yard";
import type { PhonesDoor } from "../phones/door";
import type { Context } from "./context";
import { atMost, ownPagesOnly, readableAddress, storableBody } from "./guard";
import { HttpProblem, problemHandler } from "./problems";
import { horseRoutes } from "./routes/horses";
import { ledgerRoutes } from "./routes/ledger";
import { liveRoutes } from "./routes/live";
import { offlineRoutes } from "./routes/offline";
import { mediaRoutes } from "./routes/media";
import { phoneRoutes } from "./routes/phones";
import { recordRoutes } from "./routes/records";
import { programRoutes } from "./routes/programs";
import { troubleRoutes } from "./routes/troubles";
import { yardRoutes } from "./routes/yard";

export interface AppSettings {
  db: Pool;
  /** Connections of their own for what takes long: files out and in. Those of everybody where none are given. */
  heavy?: Pool;
  /** Reads files that came in, elsewhere than in the thread that answers; in it where nothing is said. */
  bringIn?: DoJob;
  /** Makes files that go out and are long, elsewhere too. */
  layDown?: DoLayDown;
  /** Whether the disk of the database is full: why it is away, perhaps. */
  isDiskFull?: () => boolean;
  /** Where the built web application lies; absent in server tests. */
  webFolder?: string;
  /** The port it listens on, for the check of Host and Origin. */
  port: () => number;
  /** The clock; fixed for screenshots and tests. */
  now: () => string;
  /** The clock stands still: devices must not set theirs by it. */
  isClockFixed?: boolean;
  /** Where phones come in; null while it listens on loopback alone. */
  phones?: () => PhonesDoor | null;
}

const BODY_MOST = 1024 * 1024;
/** Headers a browser obeys on a page or a worker, and on nothing a page loads. */
const OF_PAGES = [
  "Content-Security-Policy",
  "Cross-Origin-Opener-Policy",
  "Origin-Agent-Cluster",
  "Referrer-Policy",
  "X-DNS-Prefetch-Control",
  "X-Download-Options",
  "X-Frame-Options",
  "X-Permitted-Cross-Domain-Policies",
  "X-XSS-Protection",
];
const YEAR_SECONDS = 31_536_000;

export function createApp(settings: AppSettings): Express {
  const context = createContext(settings);
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
  app.use(ownPagesOnly(settings.port, () => context.phones()?.hosts ?? []));
  // Answers are made anew each time: the quickest level serves them sooner than the smallest. Pages and scripts are made small.
  app.use("/api", compression({ level: 1 }));
  app.use(compression());

  app.use(readableAddress);
  // What was true a moment ago is not shown again after an event was stored.
  app.use("/api", (_request, response, next) => {
    response.set("Cache-Control", "no-store");
    next();
  });

  app.use("/api", letIn(context));
  // These read bodies of their own kinds and sizes.
  app.use("/api", recordRoutes(context), mediaRoutes(context));
  app.use(
    "/api",
    atMost(BODY_MOST),
    express.json({ limit: BODY_MOST }),
    storableBody,
    offlineRoutes(context),
    horseRoutes(context),
    phoneRoutes(context),
    liveRoutes(context, new LiveHub(settings.db)),
    yardRoutes(context),
    programRoutes(context),
    troubleRoutes(context),
    ledgerRoutes(context),
  );
  app.use("/api", (request) => {
    throw new HttpProblem(404, "Not found", `There is no ${request.method} ${request.path} here.`);
  });

  if (settings.webFolder) {
    const folder = settings.webFolder;
    app.use(
      "/assets",
      express.static(`${folder}/assets`, {
        immutable: true,
        maxAge: YEAR_SECONDS * 1000,
        index: false,
        setHeaders: (response, file) => {
          // A page is some thirty of these; over a phone's network what only a page obeys is a tenth of them.
          if (!file.includes("worker")) for (const name of OF_PAGES) response.removeHeader(name);
        },
      }),
    );
    app.use(express.static(folder, { index: false, maxAge: 0 }));
    app.get("/{*page}", (_request, response) =>
      response.set("Cache-Control", "no-cache").sendFile("index.html", { root: folder }),
    );
  }
  app.use(problemHandler(settings.isDiskFull ?? (() => false)));
  return app;
}

function createContext({
  db,
  heavy = db,
  bringIn = (job) => doJob(heavy, job),
  layDown = (work) => doLayDown(heavy, work),
  now,
  phones = () => null,
  isClockFixed = false,
}: AppSettings): Context {
  return {
    db,
    heavy,
    bringIn,
    layDown,
    now,
    phones,
    isClockFixed,
    yard: async () => {
      const yard = await loadYard(db);
      if (!yard)
        throw new HttpProblem(503, "No yard", "The database holds no yard yet. Start Still Pine with bin/start.");
      return yard;
    },
  };
}
