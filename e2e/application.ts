import { spawn, spawnSync } from "node:child_process";
import { chmodSync, mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

export const START = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../server/dist/start.mjs");

export interface Application {
  url: string;
  /** Where phones find it; started with --phones only. */
  phones: string | null;
  folder: string;
  pid: number;
  /** Ends it as Ctrl-C does and removes its data. */
  stop(): Promise<void>;
  /** Ends it from outside, as when power fails; its port is free afterwards. */
  kill(): Promise<void>;
}

/** A folder the user that runs PostgreSQL can reach. */
export function throwAwayFolder(): string {
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-"));
  chmodSync(folder, 0o755);
  return folder;
}

interface Options {
  folder?: string;
  env?: NodeJS.ProcessEnv;
  args?: string[];
}

/** Starts the application as `bin/start` does, on a folder of its own and a free port, and waits for its ready line. */
export async function startApplication(options: Options = {}): Promise<Application> {
  const folder = options.folder ?? throwAwayFolder();
  const child = spawn(process.execPath, [START, ...(options.args ?? [])], {
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, PORT: "0", STILLPINE_DATA: folder, DATABASE_URL: "", ...options.env },
  });
  const ended = new Promise<number>((resolve) => child.on("exit", (code) => resolve(code ?? 1)));
  let output = "";
  const url = await new Promise<string>((resolve, reject) => {
    const take = (chunk: Buffer): void => {
      output += chunk.toString();
      const ready = /Still Pine is ready: (\S+)/.exec(output)?.[1];
      if (ready) resolve(ready);
    };
    child.stdout.on("data", take);
    child.stderr.on("data", take);
    void ended.then((code) => reject(new Error(`ended with ${code}: ${output.trim()}`)));
  });
  return {
    url,
    phones: /Phones: (\S+)/.exec(output)?.[1] ?? null,
    folder,
    pid: child.pid ?? 0,
    stop: async () => {
      child.kill("SIGINT");
      await ended;
      if (!options.folder) rmSync(folder, { recursive: true, force: true });
    },
    kill: async () => {
      child.kill("SIGKILL");
      await ended;
    },
  };
}

/** Yards as their first start makes them, each made once for the whole run; the folder that holds them, given to every worker. */
const TEMPLATES = "STILLPINE_TEMPLATES";
const KINDS = { demo: [], empty: ["--empty"] };

/** Makes the yards that `putYard` copies. @returns takes them away again */
export async function makeTemplates(): Promise<() => void> {
  const templates = throwAwayFolder();
  for (const [kind, args] of Object.entries(KINDS)) {
    const folder = path.join(templates, kind);
    mkdirSync(folder, { mode: 0o755 });
    const application = await startApplication({ folder, args });
    await application.stop();
  }
  process.env[TEMPLATES] = templates;
  return () => rmSync(templates, { recursive: true, force: true });
}

/** Puts a yard into a folder as its first start would: a copy of one that was made once, which is quicker than to make it. */
export function putYard(folder: string, kind: keyof typeof KINDS): void {
  const { status } = spawnSync("cp", ["-a", `${process.env[TEMPLATES]}/${kind}/.`, folder]);
  if (status !== 0) throw new Error(`the ${kind} yard could not be copied`);
}

/** Starts the application on a yard that was made before, in a folder that goes with it. */
export async function startOnCopy(
  kind: keyof typeof KINDS,
  options: Omit<Options, "folder"> = {},
): Promise<Application> {
  const folder = throwAwayFolder();
  putYard(folder, kind);
  const application = await startApplication({ ...options, folder });
  const stop = async (): Promise<void> => {
    await application.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  return { ...application, stop };
}

/** Processes whose command line names a folder. */
export function processesOn(folder: string): string[] {
  return spawnSync("ps", ["-eo", "pid,args"], { encoding: "utf8" })
    .stdout.split("\n")
    .filter((line) => line.includes(folder) && !line.includes("ps -eo"));
}
