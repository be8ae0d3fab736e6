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
  if (existsSync(file)) {
    const other = readMark(file);
    if (other && aliveProcess(other.pid)?.began === other.began)
      throw new Trouble(
        `Still Pine already runs on ${folder} (process ${other.pid}, http://127.0.0.1:${other.port}): use that one, stop it, or set STILLPINE_DATA to another folder.`,
      );
  }
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

function readMark(file: string): { pid: number; began: string; port: number } | null {
  try {
    return JSON.parse(readFileSync(file, "utf8")) as { pid: number; began: string; port: number };
  } catch {
    return null;
  }
}
