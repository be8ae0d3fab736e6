import { spawn } from "node:child_process";
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { aliveProcess } from "./process";
import { asServerUser } from "./run";

/** Whoever ends the database when this program ends without having done so: killed, out of memory, a fault nobody caught. */
export interface Guard {
  /** The database has been stopped in order: nobody has to wait any longer. */
  leave(): Promise<void>;
}

/** A shell whose input is held open by this program alone: the system closes it, whatever ends the program. */
const WAIT_THEN_STOP = 'while read -r _; do :; done; exec "$0" stop --mode=fast --silent --wait --pgdata="$1"';
const MARK = "guard.json";
/** A fast stop takes a moment; a database that does not end within this is left to be adopted. */
const GONE_WITHIN_MS = 60_000;

/** Has the server on `cluster` stopped when this program ends. */
export function standGuard(folder: string, pgCtl: string, cluster: string): Guard {
  const [program, words] = asServerUser("sh", ["-c", WAIT_THEN_STOP, pgCtl, cluster]);
  // Its own process group: Ctrl-C in the terminal is for this program, which then stops the database in order.
  const child = spawn(program, words, { cwd: "/", detached: true, stdio: ["pipe", "ignore", "ignore"] });
  const ended = new Promise<void>((resolve) => child.once("exit", () => resolve()).once("error", () => resolve()));
  child.stdin.on("error", () => undefined);
  child.unref();
  (child.stdin as unknown as { unref(): void }).unref();
  const mark = path.join(folder, MARK);
  if (child.pid !== undefined)
    writeFileSync(mark, JSON.stringify({ pid: child.pid, began: aliveProcess(child.pid)?.began ?? "" }));
  return {
    leave: async () => {
      child.ref();
      child.kill("SIGKILL");
      if (child.exitCode === null && child.signalCode === null) await ended;
      rmSync(mark, { force: true });
    },
  };
}

/** Waits while the guard of a program that was killed still stops the database. Call when the folder is claimed. */
export async function guardIsGone(folder: string): Promise<void> {
  for (let waited = 0; waited < GONE_WITHIN_MS; waited += 50) {
    const mark = readMark(path.join(folder, MARK));
    if (!mark || aliveProcess(mark.pid)?.began !== mark.began) return;
    await sleep(50);
  }
}

function readMark(file: string): { pid: number; began: string } | null {
  try {
    return JSON.parse(readFileSync(file, "utf8")) as { pid: number; began: string };
  } catch {
    return null;
  }
}
