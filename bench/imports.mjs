// Files as large as may be, brought in while others are answered: what the others wait, and what memory it takes.
import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { deflateRawSync } from "node:zlib";
import { ms } from "./measure.mjs";
import { startServer } from "./running.mjs";

const MB = 1024 * 1024;
/** Others are answered within this, 99 of 100. */
const P99_MS = 200;
const ASK_EVERY_MS = 20;

/** A sound record of about so many megabytes. */
export function recordOf(id, megabytes) {
  const outings = [];
  let bytes = 0;
  for (let n = 0; bytes < megabytes * MB; n += 1) {
    const day = Date.parse("2016-01-01T09:00:00Z") + n * 6 * 3_600_000;
    const events = Array.from({ length: 400 }, (_none, ask) => ({
      id: `${id}-${n}-${ask}`,
      at: new Date(day + ask * 9000).toISOString(),
      type: "ask",
      step: "flex",
      side: ask % 2 ? "near" : "off",
      phase: 1,
      answer: ask % 9 ? "gave" : "none",
      mood: 1,
    }));
    outings.push({
      id: `${id}-${n}`,
      startedAt: events[0].at,
      endedAt: events.at(-1).at,
      place: "Pen",
      handler: "M",
      events,
    });
    bytes += events.length * 137;
  }
  return JSON.stringify({
    format: "still-pine/horse-record",
    version: 1,
    yard: { timeZone: "Europe/Dublin" },
    horse: { id, name: id, foaled: "2012-01-01", foaledPrecision: "year", sex: "mare" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings,
  });
}

/** A ledger of so many megabytes as it goes out: every fiftieth row is a weight that comes in. */
function csvOf(megabytes) {
  const lines = ["id,day,at,horse,horse_id,outing,kind,step,side,phase,answer,mood,weight_kg"];
  for (let bytes = 0, n = 0; bytes < megabytes * MB; n += 1) {
    const at = new Date(Date.parse("2016-01-01T09:00:00Z") + n * 600_000).toISOString();
    const isWeight = n % 50 === 0;
    const line = `row-${n},${at.slice(0, 10)},${at},H,h,${isWeight ? "" : `o-${n % 999}`},${isWeight ? "weight" : "ask"},${isWeight ? ",,,," : "flex,near,1,gave,1"},${isWeight ? 300 + (n % 97) : ""}`;
    lines.push(line);
    bytes += line.length + 1;
  }
  return lines.join("\n");
}

/** A zip of one file (APPNOTE.TXT 6.3), packed as tightly as it goes. */
function zipOf(name, content) {
  const packed = deflateRawSync(content, { level: 9 });
  const title = Buffer.from(name);
  const fields = Buffer.alloc(26);
  [
    [20, 0],
    [8, 4],
  ].forEach(([value, at]) => fields.writeUInt16LE(value, at));
  [
    [0, 10],
    [packed.length, 14],
    [content.length, 18],
  ].forEach(([value, at]) => fields.writeUInt32LE(value, at));
  fields.writeUInt16LE(title.length, 22);
  const local = Buffer.concat([Buffer.from("PK\x03\x04", "latin1"), fields, title, packed]);
  const central = Buffer.concat([Buffer.from("PK\x01\x02\x14\x03", "latin1"), fields, Buffer.alloc(14), title]);
  const end = Buffer.alloc(22);
  end.write("PK\x05\x06", 0, "latin1");
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length, 12);
  end.writeUInt32LE(local.length, 16);
  return Buffer.concat([local, central, end]);
}

export const residentMb = (pid) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024;

/** Sends a file with a client of its own, so that reading it costs this program nothing. */
export function send(url, file, type) {
  return new Promise((resolve, reject) => {
    const child = spawn("curl", [
      "-s",
      "-o",
      "/dev/null",
      "-w",
      "%{http_code}",
      "-H",
      `Content-Type: ${type}`,
      "-T",
      file,
      "-X",
      "POST",
      url,
    ]);
    let said = "";
    child.stdout.on("data", (piece) => (said += piece));
    child.once("error", reject);
    child.once("close", () => resolve(Number(said)));
  });
}

/** What others wait, and the memory above idle, while something is done. */
async function meanwhile(server, work) {
  const idle = residentMb(server.pid);
  const waits = [];
  let most = 0;
  const state = { isDone: false };
  const asking = (async () => {
    while (!state.isDone) {
      const began = performance.now();
      const response = await fetch(`${server.url}/api/yard`);
      await response.arrayBuffer();
      waits.push(response.ok ? performance.now() - began : Infinity);
      most = Math.max(most, residentMb(server.pid) - idle);
      await new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS));
    }
  })();
  const began = performance.now();
  const result = await work();
  const took = performance.now() - began;
  state.isDone = true;
  await asking;
  const inOrder = waits.toSorted((a, b) => a - b);
  return { result, took, p99: inOrder[Math.floor(inOrder.length * 0.99)] ?? 0, most };
}

/** @param report a row of the table */
export async function measureImports(root, scratch, report) {
  const folder = path.join(scratch, "imports");
  mkdirSync(folder, { mode: 0o755 });
  const server = await startServer(root, folder, {});
  const files = path.join(scratch, "files");
  mkdirSync(files);
  const write = (name, content) => {
    const file = path.join(files, name);
    writeFileSync(file, content);
    return file;
  };
  const own = { id: "h", name: "H", foaled: "2012-01-01", foaledPrecision: "year", sex: "mare" };
  await fetch(`${server.url}/api/horses`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(own),
  });
  const json = "application/json";
  const wanted = process.env.IMPORTS?.split(",");
  const cases = [
    [
      "an archive of 250 MB of []",
      "/archives",
      "application/zip",
      () => write("bomb.zip", zipOf("record.json", Buffer.from("[],".repeat((250 * MB) / 3)))),
      422,
      300,
    ],
    [
      "a record of 130 MB of []",
      "/records",
      json,
      () => write("brackets.json", `[${"[],".repeat((130 * MB) / 3)}[]]`),
      422,
      300,
    ],
    ["a CSV of 18 MB", "/csv", "text/csv", () => write("weights.csv", csvOf(18)), 200, 300],
    [
      "a record of 64 MB, shown first",
      "/records?preview=1",
      json,
      () => write("r64.json", recordOf("r64", 60)),
      200,
      300,
    ],
    ["a record of 64 MB", "/records", json, () => write("r64.json", recordOf("r64", 60)), 201, 300],
    ["a record of 200 MB", "/records", json, () => write("r200.json", recordOf("r200", 190)), 201, 700],
  ];
  for (const [what, where, type, make, status, memory] of cases) {
    if (wanted && !wanted.some((word) => what.includes(word))) continue;
    const file = make();
    const { result, took, p99, most } = await meanwhile(server, () => send(`${server.url}/api${where}`, file, type));
    console.log(`     ${what}: answered ${result} after ${(took / 1000).toFixed(1)} s`);
    if (result !== status) throw new Error(`${what}: expected ${status}, found ${result}`);
    report(`others while it reads ${what}, 99 of 100`, "what they may wait", ms(p99), ms(P99_MS), p99 / P99_MS, 1);
    report(
      `memory above idle for ${what}`,
      "what it may take",
      `${most.toFixed(0)} MB`,
      `${memory} MB`,
      most / memory,
      1,
    );
  }
  await server.stop();
}
