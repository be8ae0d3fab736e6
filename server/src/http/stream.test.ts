import { createServer, type Server } from "node:http";
import { connect, type AddressInfo, type Socket } from "node:net";
import { Readable } from "node:stream";
import { setTimeout as sleep } from "node:timers/promises";
import { afterEach, describe, expect, it } from "vitest";
import { sendStream } from "./stream";

const PIECE = Buffer.alloc(64 * 1024);
/** More than a network holds on its way. */
const PIECES = 400;
const STALLED_MS = 400;

let server: Server | undefined;
let socket: Socket | undefined;
afterEach(() => {
  socket?.destroy();
  server?.closeAllConnections();
  server?.close();
});

/** Sends a long answer to whoever connects. */
async function sending(): Promise<{ stream: Readable; done: Promise<void>; port: number }> {
  const stream = Readable.from(Array.from({ length: PIECES }, () => PIECE));
  let end: (value: Promise<void>) => void;
  const done = new Promise<void>((resolve) => (end = resolve));
  server = createServer((_request, response) => end(sendStream(stream, response, STALLED_MS)));
  await new Promise<void>((resolve) => server?.listen(0, "127.0.0.1", resolve));
  return { stream, done, port: (server.address() as AddressInfo).port };
}

const ask = (port: number): Socket => {
  const opened = connect(port, "127.0.0.1", () => opened.write("GET / HTTP/1.1\r\nHost: x\r\n\r\n"));
  return opened;
};

describe("an answer that is sent piece by piece", () => {
  it("is given up, quietly, when nobody takes it", async () => {
    const { stream, done, port } = await sending();
    socket = ask(port);
    socket.pause();
    await done;
    expect(stream.destroyed).toBe(true);
    expect(stream.readableEnded).toBe(false);
  });

  it("is sent whole to whoever takes it slowly, for longer than one would wait for somebody who takes nothing", async () => {
    const { done, port } = await sending();
    const began = performance.now();
    socket = ask(port);
    let bytes = 0;
    socket.on("data", (piece) => {
      bytes += piece.length;
      socket?.pause();
      void sleep(bytes > (PIECES / 2) * PIECE.length ? 0 : 5).then(() => socket?.resume());
    });
    await done;
    await expect.poll(() => bytes).toBeGreaterThanOrEqual(PIECES * PIECE.length);
    expect(performance.now() - began).toBeGreaterThan(STALLED_MS);
  });
});
