// The floor of a start: this cluster and an Express that answers one word, nothing else.
import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { createServer } from "node:net";
import express from "express";
import pg from "pg";

const [, , cluster, passwordFile] = process.argv;
const bin = `/usr/lib/postgresql/${readdirSync("/usr/lib/postgresql").at(-1)}/bin/pg_ctl`;
const as = (...words) =>
  process.getuid() === 0
    ? spawnSync("setpriv", ["--reuid=postgres", "--regid=postgres", "--init-groups", ...words], { cwd: "/" })
    : spawnSync(words[0], words.slice(1));

const port = await new Promise((resolve) => {
  const probe = createServer().listen(0, "127.0.0.1", () => {
    const { port } = probe.address();
    probe.close(() => resolve(port));
  });
});
as(
  bin,
  "start",
  "--no-wait",
  "--silent",
  `--pgdata=${cluster}`,
  "--log=/dev/null",
  `--options=-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''`,
);
for (;;) {
  const client = new pg.Client({
    host: "127.0.0.1",
    port,
    user: "still_pine",
    password: readFileSync(passwordFile, "utf8").trim(),
    database: "still_pine",
  });
  client.on("error", () => undefined);
  try {
    await client.connect();
    await client.end();
    break;
  } catch {
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}
const app = express();
app.get("/", (_request, response) => response.send("bare"));
app.listen(0, "127.0.0.1", () => console.log("bare is ready"));
process.on("SIGINT", () => {
  as(bin, "stop", "--mode=fast", "--silent", "--wait", `--pgdata=${cluster}`);
  process.exit(0);
});
