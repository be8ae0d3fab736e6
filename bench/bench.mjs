// Benchmarks, each a ratio against a named floor measured in the same run. Prints a table and writes docs/performance.md.
import { spawn, spawnSync } from "node:child_process";
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { rolldown } from "rolldown";
import { measureBusy } from "./busy.mjs";
import { measureImports } from "./imports.mjs";
import { soak } from "./soak.mjs";
import { firstLoad } from "./first-load.mjs";
import { harnesses } from "./harnesses.mjs";
import { DISTURBED, inRounds, inTurn, median, ms, paired, timed, watchStolen } from "./measure.mjs";
import { measurePen } from "./pen.mjs";
import { measurePhones } from "./phones.mjs";
import { countPresses } from "./presses.mjs";
import { writeProofs } from "./proofs.mjs";
import { largeRecord } from "./record.mjs";
import { measureSchools } from "./schools.mjs";
import { blockedBySwitch, framesOfMap } from "./screens.mjs";
import { measureYard } from "./yard.mjs";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const scratch = mkdtempSync(path.join(tmpdir(), "still-pine-bench-"));
chmodSync(scratch, 0o755);
const rows = [];

let stolen = watchStolen();
let wasDisturbed = false;
/** Rows that come right after one another come of one measurement. */
const OF_ONE_MS = 1000;

/** @param spread the middle half of the rounds' ratios, where there were rounds */
function report(what, floor, measured, atLeast, ratio, limit, spread) {
  const { share, took } = stolen();
  if (took > OF_ONE_MS) {
    wasDisturbed = share > DISTURBED;
    stolen = watchStolen();
  }
  const row = { what, floor, measured, atLeast, ratio, limit, spread, isDisturbed: wasDisturbed && !spread };
  rows.push(row);
  console.log(
    `${ratio <= limit ? "ok  " : "OVER"} ${what}: ${measured} against ${atLeast} (${floor}) = ${ratioInWords(row)}, at most ${limit}`,
  );
}

/** "1.38 (1.30–1.45) OVER"; unsure where the rounds lie farther apart than the median is from the limit. */
function ratioInWords({ ratio, limit, spread, isDisturbed }) {
  const rounds = spread ? ` (${spread.map((one) => one.toFixed(2)).join("–")})` : "";
  const isUnsure = spread !== undefined && spread[1] - spread[0] > Math.abs(limit - ratio);
  return `${ratio.toFixed(2)}${rounds}${ratio > limit ? " OVER" : ""}${isUnsure ? " unsure" : ""}${isDisturbed ? " disturbed" : ""}`;
}

/** What a row was before, and is now, where that is more than a quarter hour's noise: 15 %. */
const AGREES = 0.15;
function compareWithBefore(before) {
  for (const row of rows) {
    const line = before.find((one) => nameOf(one) === nameOf(`| ${row.what} | `));
    const was = Number(/^\d+(?:\.\d+)?/.exec(line?.split(" | ")[3] ?? "")?.[0]);
    if (!Number.isFinite(was) || Math.max(was, row.ratio) === 0) continue;
    const change = row.ratio / was - 1;
    if (!Number.isFinite(change) || Math.abs(change) > AGREES)
      console.log(`     ${row.what}: ${row.ratio.toFixed(2)}, in the table before ${was.toFixed(2)}`);
  }
}

const nameOf = (line) => line.split(" | ")[0].replace(/\(.*\)/, "");

async function core() {
  const build = await rolldown({
    input: path.join(root, "bench/core-entry.ts"),
    logLevel: "silent",
    resolve: { mainFields: ["module", "main"] },
  });
  const file = path.join(scratch, "core.mjs");
  await build.write({ file, format: "esm" });
  return import(pathToFileURL(file).href);
}

/** Steps of the road as the large record wants them. */
async function road() {
  const { loosePenStart, sidesOf, chipsOf, CHIP_VALUES, inFull } = await core();
  return loosePenStart.steps.map((step) => ({
    id: step.id,
    sides: sidesOf(step),
    hasPhase: step.standard.phase !== null,
    full: inFull(step),
    rungs: step.ladder.rungs.map(({ id }) => id),
    chips: chipsOf(step).map((name) => [name, CHIP_VALUES[name]]),
    isTravelled: step.side === "travel",
  }));
}

/** Judging may take so much of what one more outing costs against the whole. */
const ONE_MORE_MOST = 0.02;

/** Folds and judges a record against reading its JSON. @returns how long that took, and the record as it was read */
async function judgeAll(what, record) {
  const { foldRecord, judgeFolded, loosePenStart } = await core();
  const text = JSON.stringify(record);
  let parsed;
  const { measured, floor, ratio, spread } = await inTurn(
    11,
    () => judgeFolded(foldRecord(parsed ?? (parsed = JSON.parse(text))), loosePenStart, "2026-06-01"),
    () => (parsed = JSON.parse(text)),
  );
  report(what, "JSON.parse of the same record", ms(measured), ms(floor), ratio, 1.0, spread);
  return { judge: measured, parsed };
}

async function judging() {
  const { foldRecord, gather, gatherOn, judgeGathered, loosePenStart, parseRecord } = await core();
  const record = largeRecord({ asks: 200_000, steps: await road() });
  const { judge, parsed } = await judgeAll("fold and judge 200,000 asks over the whole road", record);
  await judgeAll(
    "fold and judge 200,000 asks that say all of how they were put, with gaits and frames between",
    largeRecord({ asks: 200_000, steps: await road(), isSaid: true }),
  );

  // One more outing on top of all but the last ones, each judged anew.
  const { outings } = foldRecord(record);
  // The first of them warm up: a server that judges has judged before.
  const more = 80;
  const gathered = gather({ ...foldRecord(record), outings: outings.slice(0, -more) }, loosePenStart);
  judgeGathered(gathered, "2026-06-01");
  const times = [];
  for (const outing of outings.slice(-more))
    times.push(
      await timed(() => {
        gatherOn(gathered, [outing]);
        judgeGathered(gathered, "2026-06-01");
      }),
    );
  const one = median(times.slice(20));
  report(
    "one more outing on top of them, judged",
    "fold and judge of all of it",
    ms(one),
    ms(judge),
    one / judge,
    ONE_MORE_MOST,
  );
  const checked = await timed(() => parseRecord(parsed, "2026-06-01T00:00:00Z"));
  console.log(`     (reading it through the contract, for information: ${ms(checked)})`);
}

async function assessing() {
  const file = path.join(scratch, "ten.json");
  writeFileSync(file, JSON.stringify(largeRecord({ asks: 400, steps: await road() })));
  const run = (command, args) => {
    const { status } = spawnSync(command, args, { stdio: "ignore" });
    if (status !== 0) throw new Error(`${command} ended with ${status}`);
  };
  const {
    measured: assess,
    floor: node,
    ratio,
    spread,
  } = await inTurn(
    25,
    () => run(path.join(root, "bin/assess"), [file]),
    () => run(process.execPath, ["-e", "0"]),
  );
  report("bin/assess on ten outings, whole process", "node -e 0", ms(assess), ms(node), ratio, 2.5, spread);
}

/** Starts a program, waits for a line, then ends it and everything it started. */
async function untilLine(command, args, env, line) {
  const began = performance.now();
  const child = spawn(command, args, { env: { ...process.env, ...env }, stdio: ["ignore", "pipe", "inherit"] });
  const ended = new Promise((resolve) => child.on("exit", resolve));
  const time = await new Promise((resolve, reject) => {
    let output = "";
    child.stdout.on("data", (chunk) => {
      output += chunk;
      if (output.includes(line)) resolve(performance.now() - began);
    });
    void ended.then((code) => reject(new Error(`${command} ended with ${code}: ${output}`)));
  });
  child.kill("SIGINT");
  await ended;
  return time;
}

async function starting() {
  const folder = path.join(scratch, "data");
  mkdirSync(folder);
  chmodSync(folder, 0o755);
  const env = { STILLPINE_DATA: folder, PORT: "0", DATABASE_URL: "" };
  const ours = () => untilLine(path.join(root, "bin/start"), [], env, "Still Pine is ready");
  await ours();
  const bare = () =>
    untilLine(
      process.execPath,
      [path.join(root, "bench/bare-start.mjs"), path.join(folder, "cluster"), path.join(folder, "password")],
      {},
      "bare is ready",
    );
  const { measured, floor, ratio, spread } = paired(await inRounds(9, async () => [await ours(), await bare()]));
  report(
    "second bin/start to the ready line",
    "PostgreSQL and a bare Express alone",
    ms(measured),
    ms(floor),
    ratio,
    2.5,
    spread,
  );
}

async function loading() {
  const { ours, floor } = await firstLoad(root, scratch);
  const kb = (bytes) => `${(bytes / 1024).toFixed(1)} KB`;
  report(
    "first load of the String, bytes over the wire",
    "a page that only loads the libraries and fonts",
    kb(ours),
    kb(floor),
    ours / floor,
    1.4,
  );
}

const counts = [];
const { merging, devices, histories, yards, nonsense, doors, killing } = harnesses(root, (one) => counts.push(one));

const PARTS = {
  judging,
  assessing,
  starting,
  loading,
  map: () => framesOfMap(root, scratch, report),
  pen: () => measurePen(root, scratch, report),
  phones: () => measurePhones(root, scratch, report),
  schools: async () => {
    measureSchools(await core(), await road(), report);
    await blockedBySwitch(root, scratch, await road(), report);
  },
  presses: async () => countPresses(await core(), report),
  merging,
  devices,
  histories,
  yards,
  yard: () => measureYard(root, scratch, report),
  imports: () => measureImports(root, scratch, report),
  busy: () => measureBusy(root, scratch, report),
  soak: () => soak(root, scratch, report),
  proofs: async () => writeProofs(root, await core()),
  nonsense,
  doors,
  killing,
};
const wanted = process.argv.slice(2);
const unknown = wanted.find((name) => !(name in PARTS));
if (unknown !== undefined) {
  console.error(`${unknown}: no such part; choose from ${Object.keys(PARTS).join(", ")}`);
  process.exit(2);
}

/** Lines of the table that stand there already and were not measured now. */
function linesBefore(file, heading) {
  const text = existsSync(file) ? readFileSync(file, "utf8") : "";
  const [, part = ""] = text.split(heading);
  return part
    .split("\n")
    .filter((line) => line.startsWith("| ") && !line.startsWith("| what") && !line.startsWith("| ---"))
    .slice(0, 200);
}

function writeTable() {
  const file = path.join(root, "docs/performance.md");
  const measured = rows.map(
    (row) => `| ${row.what} | ${row.measured} | ${row.floor}: ${row.atLeast} | ${ratioInWords(row)} | ${row.limit} |`,
  );
  const counted = counts.map(({ what, found }) => `| ${what} | ${found} |`);
  const merged = (before, now) => [
    ...before.filter((line) => !now.some((one) => nameOf(one) === nameOf(line))),
    ...now,
  ];
  const isRatio = (line) => line.split(" | ").length >= 5;
  const before = linesBefore(file, "# Performance");
  compareWithBefore(before);
  writeFileSync(
    file,
    `# Performance

Written by \`bin/bench\`. Each figure is a ratio against a floor measured in the same run on the same machine, so that it holds on
another machine; the times beside it do not. Where it could be measured in rounds, floor and measured by turns, it is the median of the rounds'
ratios, and their middle half stands in brackets; *unsure* marks one whose rounds lie farther apart than it is from its limit, OVER one that is over it.
A machine that shares its processors with others loses them at times: rounds in which that happened are run again, and *disturbed* marks a row that
could not be measured in rounds while more than ${DISTURBED * 100} % of the processors' time was taken away.
The first loads may be 1.4 (String) and 1.5 (pen): the ladders of all steps belong to the judge that both bring along, and the pen has to know what an ask
can say before there is a network. The words of rungs and faults come after the first paint.
\`bin/bench PART …\` measures only some of it:
${Object.keys(PARTS).join(", ")}.

| what | measured | floor | ratio | at most |
| --- | --- | --- | --- | --- |
${merged(before.filter(isRatio), measured).join("\n")}

## Long runs of the harnesses

| what | found |
| --- | --- |
${merged(
  before.filter((line) => !isRatio(line)),
  counted,
).join("\n")}
`,
  );
}

try {
  // A part that fails takes nothing from what the others found.
  for (const name of wanted.length > 0 ? wanted : Object.keys(PARTS))
    try {
      await PARTS[name]();
    } catch (cause) {
      console.error(`FAILED ${name}:`, cause);
      process.exitCode = 1;
    }
  writeTable();
  if (rows.some(({ ratio, limit }) => ratio > limit)) process.exitCode = 1;
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
