// The application and a browser, as the benchmarks run them.
import { spawn } from "node:child_process";
import { connect } from "node:net";
import path from "node:path";
import { chromium } from "@playwright/test";

const FLAGS = [
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

export const openBrowser = () =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: process.getuid() === 0 ? [...FLAGS, "--no-sandbox"] : FLAGS,
  });

/** Starts the built application on a folder of its own, ready to answer. */
export async function startServer(root, folder, env = {}) {
  const child = spawn(process.execPath, [path.join(root, "server/dist/start.mjs")], {
    env: { ...process.env, STILLPINE_DATA: folder, PORT: "0", DATABASE_URL: "", ...env },
    stdio: ["ignore", "pipe", "inherit"],
  });
  const url = await new Promise((resolve) =>
    child.stdout.on("data", (chunk) => /ready: (\S+)/.test(chunk) && resolve(/ready: (\S+)/.exec(chunk)[1])),
  );
  const ended = new Promise((resolve) => child.on("exit", resolve));
  return {
    url,
    pid: child.pid,
    stop: async () => {
      child.kill("SIGINT");
      await ended;
    },
  };
}

/** Asks for a long download and takes nothing of it. */
export function stall(url, where) {
  const { port } = new URL(url);
  const socket = connect(Number(port), "127.0.0.1", () =>
    socket.write(`GET ${where} HTTP/1.1\r\nHost: localhost:${port}\r\nAccept-Encoding: identity\r\n\r\n`),
  );
  socket.pause();
  socket.on("error", () => undefined);
  return socket;
}

/** Waits until a page has had nothing to do for a while: ten times in a row it was idle with time to spare. */
export const atRest = (page) =>
  page.evaluate(
    () =>
      new Promise((resolve) => {
        let quiet = 0;
        const look = (deadline) => {
          quiet = deadline.timeRemaining() > 10 ? quiet + 1 : 0;
          if (quiet >= 10) resolve();
          else requestIdleCallback(look);
        };
        requestIdleCallback(look);
      }),
  );
