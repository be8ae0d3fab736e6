import { spawn, spawnSync } from "node:child_process";

/** PostgreSQL refuses to run as root; there, its programs run as the user of that name. */
const SERVER_USER = "postgres";

export const isRoot = process.getuid?.() === 0;

/** A command as the user that owns the cluster runs it. */
export const asServerUser = (command: string, args: readonly string[]): [string, string[]] =>
  isRoot
    ? ["setpriv", [`--reuid=${SERVER_USER}`, `--regid=${SERVER_USER}`, "--init-groups", command, ...args]]
    : [command, [...args]];

export interface Outcome {
  code: number;
  output: string;
}

/** Runs a program to its end as the user that owns the cluster. Never throws for a failing program. */
export function runAsServerUser(
  command: string,
  args: readonly string[],
  env: NodeJS.ProcessEnv = {},
): Promise<Outcome> {
  const [program, all] = asServerUser(command, args);
  return new Promise((resolve) => {
    // Its own process group: Ctrl-C in the terminal must reach this program only, which then stops the database in order.
    const child = spawn(program, all, {
      cwd: "/",
      detached: true,
      stdio: ["ignore", "pipe", "pipe"],
      env: { ...process.env, LC_ALL: "C", ...env },
    });
    let output = "";
    const take = (chunk: Buffer): void => {
      output += chunk.toString();
    };
    child.stdout.on("data", take);
    child.stderr.on("data", take);
    child.on("error", (cause) => resolve({ code: 127, output: cause.message }));
    child.on("exit", (code) => resolve({ code: code ?? 1, output }));
  });
}

/** The numeric user and group a cluster's folder must belong to. */
export function serverUserIds(): { uid: number; gid: number } | null {
  if (!isRoot) return null;
  const ask = (flag: string): number => Number(spawnSync("id", [flag, SERVER_USER], { encoding: "utf8" }).stdout);
  return { uid: ask("-u"), gid: ask("-g") };
}
