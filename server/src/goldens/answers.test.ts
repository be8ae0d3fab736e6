import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { ALL_ENDPOINTS } from "@still-pine/contract/http";
import { loosePenStart, SCHOOLS } from "@still-pine/core/programs";
import { openArchive } from "../archive/read";
import { jpegWithPosition } from "../testing/samples";
import { bringInDemo } from "../testing/demo";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { Goldens } from "./goldens";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
/** Of one horse every outing and every step is asked for, of the others the latest and a few. */
const WHOLE = "Plover";
const FEW = 3;
/** An outing that goes on, for whoever joins it. */
const RUNNING = "running-outing";
/** A stream that never ends: live.test.ts looks at it. */
const LEFT = new Set(["/outings/{outing}/live"]);

let home: TestYard;
let horses: { id: string; name: string }[];
beforeAll(async () => {
  home = yard();
  horses = await bringInDemo(home);
  const [first] = horses;
  const put = (path: string) =>
    fetch(`${home.url}/api${path}`, { method: "PUT", body: new Uint8Array(jpegWithPosition()) });
  await put(`/horses/${first?.id}/media/photo-1`);
  await put("/media/photo-1/thumbnail");
  const draft = (id: string, name: string) =>
    call(`${home.url}/api/programs/${id}/draft`, "PUT", { file: { ...SCHOOLS[0], name } }, { "If-Match": '"0"' });
  await draft("own-published", "Published");
  await call(`${home.url}/api/programs/own-published/publish`, "POST", {}, { "If-Match": '"1"' });
  await draft("own-begun", "Begun");
  const trouble = {
    name: "Slips on the ramp",
    seen: ["slides"],
    body: [],
    steps: [{ step: "stand", why: "He hurries." }],
  };
  await call(`${home.url}/api/troubles/slips`, "PUT", trouble, { "If-Match": '"0"' });
  const events = [
    { id: "run-1", at: "2026-06-10T11:50:00Z", type: "outing-start", place: "Round pen", handler: "M" },
    {
      id: "run-2",
      at: "2026-06-10T11:51:00Z",
      type: "ask",
      step: "flex",
      side: "near",
      answer: "gave",
      phase: 1,
      mood: 1,
    },
  ].map((event) => ({ horse: first?.id, outing: RUNNING, event }));
  await call(`${home.url}/api/events`, "POST", { events });
}, 120_000);

/** The files of an archive by name. */
async function unpack(bytes: Uint8Array): Promise<[string, Buffer][]> {
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-golden-"));
  const file = path.join(folder, "archive.zip");
  writeFileSync(file, bytes);
  const archive = await openArchive(file);
  const files: [string, Buffer][] = [];
  for (const name of archive.names) files.push([name, await archive.read(name)]);
  archive.close();
  rmSync(folder, { recursive: true });
  return files;
}

/** Addresses of a route, with what its parameters may be here. */
async function addressesOf(route: string): Promise<string[]> {
  const [first] = horses;
  if (route === "/outings/{outing}/rail") return [`/outings/${RUNNING}/rail`];
  if (route.startsWith("/media/")) return [route.replace("{media}", "photo-1")];
  if (route.startsWith("/programs/{program}")) return [route.replace("{program}", "own-begun")];
  if (route === "/ledger") return ["/ledger", "/ledger?kind=ask", `/ledger?horse=${first?.id}&step=flex`];
  if (!route.includes("{horse}")) return [route];
  const addresses: string[] = [];
  for (const { id, name } of horses) {
    const own = route.replace("{horse}", id);
    const most = name === WHOLE ? Infinity : FEW;
    if (own.includes("{outing}")) {
      const { body } = await call(`${home.url}/api/horses/${id}/outings`, "GET");
      for (const outing of body.outings.slice(0, most)) addresses.push(own.replace("{outing}", outing.id));
    } else if (own.includes("{step}")) {
      for (const { id: step } of loosePenStart.steps.slice(0, most)) addresses.push(own.replace("{step}", step));
    } else addresses.push(own);
  }
  return addresses;
}

describe("the demo yard", () => {
  it("is answered as it was, byte for byte", { timeout: 180_000 }, async () => {
    const labels = [
      ...(await call(`${home.url}/api/places`, "GET")).body,
      ...(await call(`${home.url}/api/people`, "GET")).body,
    ];
    /** Places, people and the yard have another id in each database, and the database has a clock of its own. */
    const named = (text: string): string =>
      [[home.yard.id, "the yard"], ...labels.map(({ id, label }) => [id, label])]
        .reduce((said, [id, label]) => said.replaceAll(id, label), text)
        .replaceAll(/"storedAt":"[^"]+"/g, '"storedAt":"then"');
    const goldens = new Goldens("answers");
    const routes = ALL_ENDPOINTS.flatMap(({ method, path: route }) =>
      method === "get" && !LEFT.has(route) ? [route] : [],
    );
    for (const route of routes)
      for (const address of await addressesOf(route)) {
        const answer = await fetch(`${home.url}/api${address}`);
        const type = answer.headers.get("content-type") ?? "";
        const bytes = new Uint8Array(await answer.arrayBuffer());
        const name = named(`${answer.status} ${address}`);
        if (type.startsWith("application/zip"))
          for (const [file, content] of await unpack(bytes)) goldens.add(`${name}, ${named(file)}`, content);
        else
          goldens.add(`${name}, ${type}`, type.startsWith("image/") ? bytes : named(new TextDecoder().decode(bytes)));
      }
    await expect(goldens.toString()).toMatchFileSnapshot("answers.json");
  });
});
