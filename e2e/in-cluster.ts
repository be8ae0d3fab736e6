import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import path from "node:path";

/** How to reach a folder's private server while it runs. */
export function accessTo(data: string): { port: string; password: string } {
  const [, , , port = ""] = readFileSync(path.join(data, "cluster/postmaster.pid"), "utf8").split("\n");
  return { port, password: readFileSync(path.join(data, "password"), "utf8").trim() };
}

/** Runs a program of PostgreSQL's as the owner of a folder's private server, started for that where it does not run. */
export function inCluster(data: string, program: string, words: string[], isRunning = false): string {
  const version = readFileSync(path.join(data, "cluster/PG_VERSION"), "utf8").trim();
  const bin = `/usr/lib/postgresql/${version}/bin`;
  const as = process.getuid?.() === 0 ? ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups"] : [];
  const control = (...how: string[]): void => {
    const [first = "", ...rest] = [...as, `${bin}/pg_ctl`, ...how, "--silent", "--wait", `--pgdata=${data}/cluster`];
    spawnSync(first, rest, { cwd: "/", stdio: "ignore" });
  };
  const options = "--options=-p 7999 -c unix_socket_directories='' -c listen_addresses=127.0.0.1";
  if (!isRunning) control("start", `--log=${data}/test.log`, options);
  try {
    const { port, password } = accessTo(data);
    const { status, stdout, stderr } = spawnSync(`${bin}/${program}`, words, {
      encoding: "utf8",
      env: {
        ...process.env,
        PGHOST: "127.0.0.1",
        PGPORT: port,
        PGUSER: "still_pine",
        PGPASSWORD: password,
        PGDATABASE: "still_pine",
      },
    });
    if (status !== 0) throw new Error(`${program}: ${stderr}`);
    return stdout.trim();
  } finally {
    if (!isRunning) control("stop", "--mode=fast");
  }
}
