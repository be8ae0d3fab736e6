import { readdirSync, rmSync, statSync } from "node:fs";
import { mkdtemp, open, unlink, type FileHandle } from "node:fs/promises";
import { randomBytes } from "node:crypto";
import { tmpdir } from "node:os";
import path from "node:path";
import { aliveProcess } from "../cluster/process";

/** Folders for files that came in, while they are read. Each says whose it is, so that what a killed program left is known. */

const OURS = /^still-pine-in-(\d+)-(\d+)-/;
/** As a former build called them, without saying whose they were. */
const BEFORE = /^still-pine-archive-/;
const AN_HOUR_MS = 3_600_000;

/** Makes a folder that only this program's user can look into; whoever asks takes it away again. */
export const temporaryFolder = (): Promise<string> =>
  mkdtemp(path.join(tmpdir(), `still-pine-in-${process.pid}-${aliveProcess(process.pid)?.began ?? "0"}-`));

/** A file without a name: nothing is left of it, however this program ends. */
export async function openNameless(): Promise<FileHandle> {
  const name = path.join(tmpdir(), `still-pine-out-${randomBytes(12).toString("hex")}`);
  const file = await open(name, "wx+", 0o600);
  await unlink(name);
  return file;
}

/** Takes away what programs left behind that are no more. A folder that cannot be read is nothing to end for. */
export function sweepTemporary(): void {
  const isLeft = (name: string): boolean => {
    const [, pid, began] = OURS.exec(name) ?? [];
    if (pid !== undefined) return aliveProcess(Number(pid))?.began !== began;
    return BEFORE.test(name) && Date.now() - statSync(path.join(tmpdir(), name)).mtimeMs > AN_HOUR_MS;
  };
  try {
    for (const name of readdirSync(tmpdir()))
      if (isLeft(name)) rmSync(path.join(tmpdir(), name), { recursive: true, force: true });
  } catch {
    // Somebody else's folder, or one that has just gone.
  }
}
