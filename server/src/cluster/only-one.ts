import { createHash } from "node:crypto";
import { mkdirSync, readFileSync, realpathSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import path from "node:path";
import { aliveProcess } from "./process";
import { fromErrno, Trouble } from "./trouble";

/**
 * Makes sure that one program works on a data folder at a time. The claim is a name only one program can listen on, which the
 * system frees with it, however it ends: of two that begin at one moment one has it. A mark in the folder says who.
 *
 * @returns gives the folder back
 * @throws Trouble when another one is at work, or the folder cannot be written
 */
export async function claimFolder(folder: string, port: number): Promise<() => void> {
  const file = path.join(folder, "running.json");
  try {
    mkdirSync(folder, { recursive: true });
  } catch (cause) {
    throw fromErrno(cause, folder);
  }
  const release = await takeName(`still-pine ${createHash("sha256").update(realpathSync(folder)).digest("hex")}`);
  const other = release ? atWork(file) : readMark(file);
  if (!release || other) {
    release?.();
    const who = other ? ` (process ${other.pid}${other.port ? `, http://127.0.0.1:${other.port}` : ""})` : "";
    throw new Trouble(
      `Still Pine already runs on ${folder}${who}: use that one, stop it, or set STILLPINE_DATA to another folder.`,
    );
  }
  try {
    writeFileSync(file, JSON.stringify({ pid: process.pid, began: aliveProcess(process.pid)?.began ?? "", port }));
  } catch (cause) {
    release();
    throw fromErrno(cause, folder);
  }
  return () => {
    if (readMark(file)?.pid === process.pid) rmSync(file, { force: true });
    release();
  };
}

/** Listens on a name of Linux's own, in no folder. @returns gives it back; null where another program has it */
function takeName(name: string): Promise<(() => void) | null> {
  return new Promise((resolve, reject) => {
    const held = createServer((socket) => socket.destroy());
    held.once("error", (cause: NodeJS.ErrnoException) => (cause.code === "EADDRINUSE" ? resolve(null) : reject(cause)));
    held.listen({ path: `\0${name}` }, () => {
      held.unref();
      resolve(() => void held.close());
    });
  });
}

/** Whether a program is at work on a data folder now. */
export const isClaimed = (folder: string): boolean => atWork(path.join(folder, "running.json")) !== null;

/** The mark of a program that is alive, or null. */
function atWork(file: string): ReturnType<typeof readMark> {
  const mark = readMark(file);
  return mark && aliveProcess(mark.pid)?.began === mark.began ? mark : null;
}

function readMark(file: string): { pid: number; began: string; port: number } | null {
  try {
    return JSON.parse(readFileSync(file, "utf8")) as { pid: number; began: string; port: number };
  } catch {
    return null;
  }
}
