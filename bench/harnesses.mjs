// Long runs of the tests' own harnesses, each with its own line as what was found.
import { spawnSync } from "node:child_process";

/** @param found takes what was run and what it found */
export function harnesses(root, found) {
  /** A long run of the tests' own harness, with its own line as the result. */
  function harness(what, command, args, env, line) {
    const { status, stdout, stderr } = spawnSync(command, args, {
      cwd: root,
      encoding: "utf8",
      env: { ...process.env, ...env },
    });
    const result = line.exec(stdout)?.[1];
    if (status !== 0 || result === undefined)
      throw new Error(`${what} failed:\n${stdout.slice(-3000)}${stderr.slice(-1000)}`);
    console.log(`ok   ${what}: ${result}`);
    found({ what, found: result });
  }

  const nonsense = () => {
    const count = process.env.NONSENSE ?? "30000";
    harness(
      `${count} requests of nonsense by the published grammar, at the laptop's door`,
      "npx",
      ["vitest", "run", "server/src/http/nonsense.test.ts", "-t", "never a fault", "--reporter=verbose"],
      { NONSENSE: count, NONSENSE_SEED: "7" },
      /nonsense: (.*)/,
    );
  };
  const doors = () => {
    const [asPhone, raw, roles] = [
      process.env.DOORS ?? "5000",
      process.env.RAW ?? "1250",
      process.env.ROLES ?? "10000",
    ];
    const run = (what, only, line) =>
      harness(
        what,
        "npx",
        ["vitest", "run", "server/src/http/doors.test.ts", "-t", only, "--reporter=verbose"],
        { DOORS: asPhone, RAW: raw, ROLES: roles, DOORS_SEED: "7" },
        line,
      );
    for (const who of ["a stranger", "a helper", "a phone with all rights"])
      run(`${asPhone} requests of nonsense from ${who}`, `from ${who}`, new RegExp(`${who}: (.*)`));
    run(`${raw} times raw bytes at each of four doors`, "end nothing", /raw bytes: (.*)/);
    run(`${roles} requests at foreign and guessed ids`, "is told nothing", /roles: (.*)/);
  };
  const killing = () => {
    const [kills, starts] = [process.env.KILLS ?? "1900", process.env.START_KILLS ?? "100"];
    const seed = process.env.KILL_SEED ?? "7";
    const run = (what, only, line) =>
      harness(
        what,
        "npx",
        ["playwright", "test", "-c", "e2e/playwright.config.ts", "kill", "-g", only, "--reporter=line"],
        { KILLS: kills, START_KILLS: starts, KILL_SEED: seed },
        line,
      );
    run(
      `${times(kills)} kills beside imports, publishing and zone changes, seed ${seed}`,
      "whatever is killed",
      /(seed \d+: .*)/,
    );
    run(`${starts} killed first starts and migrations, seed ${seed}`, "first starts", /starts, (seed \d+: .*)/);
  };

  /** How often, as it is named: `10,000 histories`. */
  const times = (count) => Number(count).toLocaleString("en");

  const histories = (count = process.env.HISTORIES ?? "10000", seed = process.env.HISTORIES_SEED ?? "1000") =>
    harness(
      `${times(count)} histories from seed ${seed}: stored = rebuilt = bin/assess of the export`,
      "npx",
      ["vitest", "run", "server/src/read-models/histories.test.ts", "--reporter=verbose"],
      { HISTORIES: count, HISTORIES_SEED: seed },
      /(\d+ histories from seed \d+, 0 wrong)/,
    );
  const yards = (count = process.env.YARDS ?? "2000") =>
    harness(
      `${times(count)} yards out, into an empty one and out again`,
      "npx",
      ["vitest", "run", "server/src/archive/comes-back.test.ts", "-t", "any yard", "--reporter=verbose"],
      { YARDS: count, YARDS_SEED: "1000" },
      /(\d+ yards from seed \d+, 0 wrong)/,
    );

  const merging = () =>
    harness(
      "10,000 stories of devices merged in core",
      "npx",
      ["vitest", "run", "core/src/outing/merge.test.ts", "--reporter=verbose"],
      { MERGE_RUNS: "10000", MERGE_SEED: "100000" },
      /(10000 stories .*? from seed \d+)/,
    );
  const devices = () =>
    harness(
      "500 stories of devices against the server",
      "npx",
      ["playwright", "test", "-c", "e2e/playwright.config.ts", "devices", "--reporter=list"],
      { DEVICE_STORIES: "500", DEVICE_SEED: "1000" },
      /(500 stories .*? doubled)/,
    );
  return { nonsense, doors, killing, histories, yards, merging, devices };
}
