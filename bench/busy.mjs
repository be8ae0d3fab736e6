// What others wait while nobody reads what was asked for, and what becomes of a thousand requests at one moment.
import { mkdirSync, writeFileSync } from "node:fs";
import { get } from "node:http";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { recordOf, send } from "./imports.mjs";
import { ms } from "./measure.mjs";
import { stall, startServer } from "./running.mjs";

const P99_MS = 200;
const STALLED = 40;
const ASKED = 300;
const ASK_EVERY_MS = 20;
const AT_ONCE = 1000;

/** Asks over a connection of its own and waits as long as it takes. */
const patiently = (url) =>
  new Promise((resolve, reject) => {
    get(url, { agent: false }, (response) => {
      response.resume();
      response.once("end", () =>
        resolve({ status: response.statusCode, isToldWhen: response.headers["retry-after"] !== undefined }),
      );
    }).once("error", reject);
  });

/** @param report a row of the table */
export async function measureBusy(root, scratch, report) {
  const folder = path.join(scratch, "busy");
  mkdirSync(folder, { mode: 0o755 });
  const server = await startServer(root, folder, {});
  const file = path.join(scratch, "busy.json");
  writeFileSync(file, recordOf("much", 8));
  const status = await send(`${server.url}/api/records`, file, "application/json");
  if (status !== 201) throw new Error(`the long record was answered ${status}`);

  const sockets = Array.from({ length: STALLED }, () => stall(server.url, "/api/horses/much/record"));
  const waits = [];
  for (let n = 0; n < ASKED; n += 1) {
    const began = performance.now();
    const response = await fetch(`${server.url}/api/string`);
    await response.arrayBuffer();
    waits.push(response.ok ? performance.now() - began : Infinity);
    await sleep(ASK_EVERY_MS);
  }
  sockets.forEach((socket) => socket.destroy());
  const p99 = waits.toSorted((a, b) => a - b)[Math.floor(ASKED * 0.99)];
  report(
    `the String while ${STALLED} long downloads are asked for that nobody reads, 99 of 100`,
    "what they may wait",
    ms(p99),
    ms(P99_MS),
    p99 / P99_MS,
    1,
  );

  const began = performance.now();
  const answers = await Promise.all(
    Array.from({ length: AT_ONCE }, (_none, n) =>
      patiently(`${server.url}/api/${n % 2 ? "string" : "horses/much"}`).catch(() => ({ status: 0 })),
    ),
  );
  const took = performance.now() - began;
  const answered = answers.filter(({ status }) => status === 200).length;
  const told = answers.filter(({ status, isToldWhen }) => status === 503 && isToldWhen).length;
  const otherwise = AT_ONCE - answered - told;
  report(
    `of ${AT_ONCE.toLocaleString("en")} requests at once, those neither answered nor told when to come again`,
    "none",
    `${otherwise} (${answered} answered, ${told} told, in ${ms(took)})`,
    "0",
    otherwise,
    0,
  );
  await server.stop();
}
