import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import path from "node:path";

/** How to reach a folder's private server while it runs. */
export function accessTo(data: string): { port: string; password: string } {
  const [, , , port = ""] = readFileSync(path.join(data, "cluster/postmaster.pid"), "utf8").split("\n");
  return { port, password: readFileSync(path.join(data, "password"), "utf8").trim() };
}

const PORTS = [7999, 7989, 7979] as const;

/** Runs a program of PostgreSQL's as the owner of a folder's private server, started for that where it does not run. */
export function inCluster(data: string, program: string, words: string[], isRunning = false): string {
  const version = readFileSync(path.join(data, "cluster/PG_VERSION"), "utf8").trim();
  const bin = `/usr/lib/postgresql/${version}/bin`;
  const as = process.getuid?.() === 0 ? ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups"] : [];
  const control = (...how: string[]): boolean => {
    const [first = "", ...rest] = [...as, `${bin}/pg_ctl`, ...how, "--silent", "--wait", `--pgdata=${data}/cluster`];
    return spawnSync(first, rest, { cwd: "/", stdio: "ignore" }).status === 0;
  };
  const log = path.join(data, "test.log");
  const startAt = (port: number): boolean =>
    control(
      "start",
      `--log=${log}`,
      `--options=-p ${port} -c unix_socket_directories='' -c listen_addresses=127.0.0.1`,
    );
  // A port may be taken just then, by a connection of somebody else's.
  if (!isRunning && !PORTS.some(startAt))
    throw new Error(`it does not start:\n${readFileSync(log, "utf8").slice(-2000)}`);
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
