import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { aliveProcess } from "./process";
import { fromErrno, Trouble } from "./trouble";

/**
 * Makes sure that one program works on a data folder at a time. A mark left by a program that was killed is taken over.
 *
 * @returns gives the folder back
 * @throws Trouble when another one is at work, or the folder cannot be written
 */
export function claimFolder(folder: string, port: number): () => void {
  const file = path.join(folder, "running.json");
  const other = atWork(file);
  if (other)
    throw new Trouble(
      `Still Pine already runs on ${folder} (process ${other.pid}${other.port ? `, http://127.0.0.1:${other.port}` : ""}): use that one, stop it, or set STILLPINE_DATA to another folder.`,
    );
  try {
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, JSON.stringify({ pid: process.pid, began: aliveProcess(process.pid)?.began ?? "", port }));
  } catch (cause) {
    throw fromErrno(cause, folder);
  }
  return () => {
    if (readMark(file)?.pid === process.pid) rmSync(file, { force: true });
  };
}

/** Whether a program is at work on a data folder now. */
export const isClaimed = (folder: string): boolean => atWork(path.join(folder, "running.json")) !== null;

/** The mark of a program that is alive, or null. */
function atWork(file: string): ReturnType<typeof readMark> {
  const mark = existsSync(file) ? readMark(file) : null;
  return mark && aliveProcess(mark.pid)?.began === mark.began ? mark : null;
}

function readMark(file: string): { pid: number; began: string; port: number } | null {
  try {
    return JSON.parse(readFileSync(file, "utf8")) as { pid: number; began: string; port: number };
  } catch {
    return null;
  }
}
