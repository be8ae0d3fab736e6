import { get } from "node:http";
import { connect, type Socket } from "node:net";
import express from "express";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { clipWithPosition } from "../testing/samples";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { problemHandler } from "./problems";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;
const sockets: Socket[] = [];
const HORSE = { id: "h1", name: "Moss", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
/** More than a network holds on its way. */
const CLIP_BYTES = 12 * 1024 * 1024;

beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", HORSE);
  const clip = clipWithPosition("x", "isom", CLIP_BYTES);
  await fetch(`${home.url}/api/horses/h1/media/clip`, { method: "PUT", body: new Uint8Array(clip) });
});
afterAll(() => sockets.forEach((one) => one.destroy()));

/** Asks and reads nothing but the first bytes of the answer. */
const stalled = (where: string): Promise<Socket> =>
  new Promise((resolve, reject) => {
    const { port, host } = new URL(home.url);
    const socket = connect(Number(port), "127.0.0.1", () =>
      socket.write(`GET ${where} HTTP/1.1\r\nHost: ${host}\r\n\r\n`),
    );
    sockets.push(socket);
    socket.once("error", reject);
    socket.once("readable", () => resolve(socket));
  });

describe("downloads that nobody reads", () => {
  it("keep no connection of the database: everybody else is answered", async () => {
    const all = Array.from({ length: 16 }, (_none, n) => stalled(n % 2 ? "/api/archive" : "/api/horses/h1/archive"));
    const answers = await Promise.all([
      ...Array.from({ length: 20 }, () => call(`${home.url}/api/string`, "GET")),
      call(`${home.url}/api/events`, "POST", {
        events: [{ horse: "h1", outing: null, event: { id: "n", at: NOW, type: "note", text: "n" } }],
      }),
    ]);
    expect(new Set(answers.map(({ status }) => status))).toEqual(new Set([200]));
    await Promise.all(all);
    // Nor do they once they all have begun.
    expect((await call(`${home.url}/api/horses/h1/record`, "GET")).status).toBe(200);
    const { rows } = await home.asOwner(
      "select count(*)::int as n from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'",
    );
    expect(rows[0].n).toBe(0);
  });
});

/** Asks over a connection of its own and waits as long as it takes. */
const patiently = (url: string): Promise<[status: number | undefined, retry: string | undefined]> =>
  new Promise((resolve, reject) => {
    get(url, { agent: false }, (response) => {
      response.resume();
      response.once("end", () => resolve([response.statusCode, response.headers["retry-after"]]));
    }).once("error", reject);
  });

describe("three hundred requests at once", () => {
  it("are answered, or told to come again", async () => {
    const answers = await Promise.all(Array.from({ length: 300 }, () => patiently(`${home.url}/api/horses/h1`)));
    for (const [status, retry] of answers)
      expect([status, retry !== undefined]).toEqual(status === 200 ? [200, false] : [503, true]);
    expect(answers.some(([status]) => status === 200)).toBe(true);
    expect((await call(`${home.url}/api/horses/h1`, "GET")).status).toBe(200);
  });
});

describe("what keeps the server from answering", () => {
  const failing = async (cause: unknown, isDiskFull = false) => {
    const app = express();
    app.get("/", () => {
      throw cause;
    });
    app.use(problemHandler(() => isDiskFull));
    const server = app.listen(0, "127.0.0.1");
    try {
      await new Promise((resolve) => server.once("listening", resolve));
      const { port } = server.address() as { port: number };
      return await call(`http://127.0.0.1:${port}/`, "GET");
    } finally {
      server.close();
    }
  };
  const withCode = (code: string): Error => Object.assign(new Error("names and numbers"), { code });

  it.each<[string, unknown, boolean, number, string]>([
    ["a lock", withCode("55P03"), false, 503, "writing there just now"],
    ["a deadlock", withCode("40P01"), false, 503, "writing there just now"],
    ["a statement that takes too long", withCode("57014"), false, 503, "took too long"],
    ["too many callers", withCode("53300"), false, 503, "too many callers"],
    ["no connection in time", new Error("timeout exceeded when trying to connect"), false, 503, "Too much is asked"],
    ["a connection that broke", new Error("Connection terminated unexpectedly"), false, 503, "starting again"],
    ["a database that restarts", withCode("57P03"), false, 503, "does not answer"],
    ["a database that is away", withCode("ECONNREFUSED"), false, 503, "does not answer"],
    ["a database that is away since its disk is full", withCode("ECONNREFUSED"), true, 507, "data folder is full"],
    ["a full disk", withCode("53100"), false, 507, "data folder is full"],
    ["no room in the temporary folder", withCode("ENOSPC"), false, 507, "temporary folder is full"],
    ["too many open files", withCode("EMFILE"), false, 503, "Too many files"],
  ])("%s is said in a plain sentence, with when to come again", async (_what, cause, isDiskFull, status, words) => {
    const answer = await failing(cause, isDiskFull);
    expect([answer.status, answer.headers.get("retry-after"), answer.body.detail]).toEqual([
      status,
      "2",
      expect.stringContaining(words),
    ]);
    expect(JSON.stringify(answer.body)).not.toMatch(/fault of ours|names and numbers/);
  });
});
