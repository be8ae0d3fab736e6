import { open, rm } from "node:fs/promises";
import path from "node:path";
import type { Response } from "express";
import { isMuch, piecesOf, type Outgoing } from "../archive/go-out";
import { inSnapshot } from "../db/pool";
import { temporaryFolder } from "../process/temporary";
import type { Context } from "./context";
import { spool, type Spooled } from "./spool";
import { sendStream } from "./stream";

/**
 * Lays down one moment of what goes out, gives the connection of the database back, and only then sends it. What is much is read in
 * another thread. Call when the answer's headers are set.
 */
export async function laidDown(
  { heavy, layDown, yard }: Context,
  response: Response,
  outgoing: Outgoing,
): Promise<void> {
  const home = await yard();
  const isWanted = (): boolean => !response.destroyed;
  const spooled = (await isMuch(heavy, home, outgoing))
    ? await laidDownElsewhere(layDown, response, outgoing)
    : await inSnapshot(heavy, async (client) => spool(await piecesOf(client, home, outgoing), isWanted));
  if (!spooled) return;
  response.set("Content-Length", String(spooled.bytes));
  await spooled.send(response);
}

/** Null where whoever asked has gone meanwhile: then nothing more is made. */
async function laidDownElsewhere(
  layDown: Context["layDown"],
  response: Response,
  outgoing: Outgoing,
): Promise<Spooled | null> {
  const folder = await temporaryFolder();
  const gone = new AbortController();
  const leave = (): void => gone.abort();
  response.once("close", leave);
  try {
    const file = path.join(folder, "goes-out");
    await layDown({ kind: "out", outgoing, file }, gone.signal);
    const laid = await open(file);
    const { size } = await laid.stat();
    return { bytes: size, send: (to) => sendStream(laid.createReadStream({ start: 0, autoClose: true }), to) };
  } catch (cause) {
    if (gone.signal.aborted) return null;
    throw cause;
  } finally {
    response.off("close", leave);
    // The open file stays readable without its name.
    await rm(folder, { recursive: true, force: true });
  }
}
