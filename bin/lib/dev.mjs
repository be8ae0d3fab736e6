// `npm run dev`: the server, built and started again at every change of core, contract or server, and the pages, reloaded by Vite.
// PORT and STILLPINE_DATA are honoured as by bin/start; the pages say their address.
import { spawn } from "node:child_process";
import path from "node:path";
import { watch } from "rolldown";
import { createServer } from "vite";
import { optionsOf, pages, root } from "./bundles.mjs";

const port = Number(process.env.PORT ?? 7463);
const own = `http://127.0.0.1:${port}`;
const words = process.argv.slice(2);

let server = null;
let starting = Promise.resolve();

function stop() {
  if (!server) return Promise.resolve();
  const ended = new Promise((resolve) => server.once("exit", resolve));
  server.kill("SIGTERM");
  server = null;
  return ended;
}

async function startAgain() {
  await stop();
  server = spawn(process.execPath, [path.join(root, "server/dist/start.mjs"), ...words], {
    stdio: "inherit",
    env: { ...process.env, PORT: String(port) },
  });
}

const building = watch([optionsOf("start"), optionsOf("worker")]);
building.on("event", (event) => {
  if (event.code === "ERROR") console.error(String(event.error));
  if (event.code === "END") starting = starting.then(startAgain);
});

const vite = await createServer({
  ...pages,
  logLevel: "info",
  server: {
    host: "127.0.0.1",
    proxy: {
      "/api": {
        target: own,
        changeOrigin: true,
        // The server answers its own pages alone; these are its own, only from another port.
        configure: (proxy) =>
          proxy.on("proxyReq", (asked) => asked.getHeader("origin") && asked.setHeader("origin", own)),
      },
    },
  },
});
await vite.listen();
vite.printUrls();

for (const signal of ["SIGINT", "SIGTERM"])
  process.once(signal, async () => {
    await Promise.all([building.close(), vite.close(), starting.then(stop)]);
    process.exit(0);
  });
