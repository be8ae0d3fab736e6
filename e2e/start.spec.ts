import { execFileSync, spawn, spawnSync } from "node:child_process";
import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { connect, createServer } from "node:net";
import path from "node:path";
import { text } from "node:stream/consumers";
import { expect, test } from "./test";
import { processesOn, putYard, START, startApplication, throwAwayFolder } from "./application";
import { inCluster } from "./in-cluster";

const isRoot = process.getuid?.() === 0;
const HORSE = { id: "kept", name: "Kept", foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" };
const ASK = {
  events: [{ horse: "kept", outing: "o", event: { id: "a", at: "2026-06-01T10:00:00Z", type: "note", text: "kept" } }],
};

async function post(url: string, body: object): Promise<number> {
  return (
    await fetch(url, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) })
  ).status;
}

/** The one line a start that cannot go on leaves behind. */
async function refusal(options: Parameters<typeof startApplication>[0]): Promise<string> {
  try {
    const application = await startApplication(options);
    await application.stop();
    return "it started";
  } catch (cause) {
    return String(cause instanceof Error ? cause.message : cause);
  }
}

let folder: string;
test.beforeEach(() => {
  folder = throwAwayFolder();
});
test.afterEach(() => rmSync(folder, { recursive: true, force: true }));

test("a second start keeps the data, and Ctrl-C leaves no process", async () => {
  const first = await startApplication({ folder, args: ["--empty"] });
  expect(await post(`${first.url}/api/horses`, HORSE)).toBe(201);
  expect(processesOn(folder).length).toBeGreaterThan(0);
  await first.stop();
  expect(processesOn(folder)).toEqual([]);
  const second = await startApplication({ folder });
  const string = await fetch(`${second.url}/api/string`);
  const { horses } = (await string.json()) as { horses: { name: string }[] };
  expect(horses.map((horse) => horse.name)).toEqual(["Kept"]);
  // Whoever sends now and then does not meet a connection that is just being closed.
  expect(string.headers.get("keep-alive")).toBe("timeout=60");
  await second.stop();
  expect(processesOn(folder)).toEqual([]);
});

test("Ctrl-C while the database is still being made leaves no process, and the next start works", async () => {
  const child = spawn(process.execPath, [START, "--empty"], {
    stdio: "ignore",
    env: { ...process.env, PORT: "0", STILLPINE_DATA: folder, DATABASE_URL: "" },
  });
  await expect.poll(() => existsSync(path.join(folder, "running.json"))).toBe(true);
  child.kill("SIGINT");
  await new Promise((resolve) => child.on("exit", resolve));
  expect(processesOn(folder)).toEqual([]);
  expect(await refusal({ folder, args: ["--empty"] })).toBe("it started");
});

test("whatever ends the program ends its database", async () => {
  putYard(folder, "empty");
  const killed = await startApplication({ folder });
  expect(await post(`${killed.url}/api/horses`, HORSE)).toBe(201);
  await killed.kill();
  await expect.poll(() => processesOn(folder)).toEqual([]);
  expect(await refusal({ folder })).toBe("it started");
  expect(processesOn(folder)).toEqual([]);
});

test("what a statement that fails was about does not stand in the database's log", async () => {
  putYard(folder, "empty");
  const running = await startApplication({ folder });
  expect(() => inCluster(folder, "psql", ["--command=select 'lame behind'::int"], true)).toThrow(/lame behind/);
  await running.stop();
  const log = readFileSync(path.join(folder, "postgres.log"), "utf8");
  expect(log).toContain("ready to accept connections");
  expect(log).not.toContain("lame behind");
});

test("no address sent to the page without HTTPS ends the program", async () => {
  const phones = { STILLPINE_PHONES_PORT: "0", STILLPINE_ANNOUNCE: "no" };
  putYard(folder, "empty");
  const running = await startApplication({ folder, args: ["--phones"], env: phones });
  const { trustAddress } = (await (await fetch(`${running.url}/api/phones`)).json()) as { trustAddress: string };
  for (const address of ["//", "///", "http://[", "*"]) {
    const socket = connect(Number(new URL(trustAddress).port), "127.0.0.1");
    socket.end(`GET ${address} HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n`);
    expect((await text(socket)).split("\r\n")[0]).toMatch(/^HTTP\/1\.1 (400|404) /);
  }
  expect((await fetch(`${running.url}/api/yard`)).status).toBe(200);
  await running.stop();
});

test("after a kill -9 of the program, and of everything, a start works and nothing saved is lost", async () => {
  const first = await startApplication({ folder, args: ["--empty"] });
  await post(`${first.url}/api/horses`, HORSE);
  await first.kill();
  const second = await startApplication({ folder });
  expect(await post(`${second.url}/api/events`, ASK)).toBe(200);
  const postmaster = Number(readFileSync(path.join(folder, "cluster/postmaster.pid"), "utf8").split("\n")[0]);
  const children = execFileSync("ps", ["-o", "pid=", "--ppid", String(postmaster)], { encoding: "utf8" })
    .split("\n")
    .map(Number)
    .filter(Boolean);
  for (const pid of [second.pid, postmaster, ...children]) process.kill(pid, "SIGKILL");
  const third = await startApplication({ folder });
  const record = (await (await fetch(`${third.url}/api/horses/kept/record`)).json()) as {
    outings: { events: { text: string }[] }[];
  };
  expect(record.outings[0]?.events[0]?.text).toBe("kept");
  await third.stop();
  expect(processesOn(folder)).toEqual([]);
});

test("a second start on a folder at work, a taken port and a bad setting are one line each", async () => {
  putYard(folder, "empty");
  const running = await startApplication({ folder });
  const port = new URL(running.url).port;
  expect(await refusal({ folder })).toContain(`Still Pine already runs on ${folder}`);
  expect(await refusal({ folder, env: { PORT: port } })).toContain(
    `Port ${port} is taken by another program: start with another one, for example PORT=${Number(port) + 1} bin/start.`,
  );
  expect(await refusal({ env: { PORT: "many" } })).toContain("PORT: expected a number from 0 to 65535");
  for (const now of ["soon", "+099999-01-01T00:00:00Z"])
    expect(await refusal({ env: { STILLPINE_NOW: now } })).toContain(
      "STILLPINE_NOW: expected an instant such as 2026-05-01T09:30:00Z",
    );
  for (const sign of ["$(id)", "`id`", '"'])
    expect(await refusal({ folder: path.join(folder, `a${sign}`) })).toContain("in its name: set STILLPINE_DATA");
  const said = (...words: string[]) => spawnSync(process.execPath, [START, ...words], { encoding: "utf8" });
  const wrong = said("--emty");
  expect([wrong.status, wrong.stderr]).toEqual([2, "--emty: no such option. usage: bin/start [--empty] [--phones]\n"]);
  expect([said("--help").status, said("--help").stdout]).toEqual([0, "usage: bin/start [--empty] [--phones]\n"]);
  expect((await fetch(`${running.url}/api/yard`)).status).toBe(200);
  await running.stop();
});

/** Addresses a port is listened on, as the kernel has them. */
function listenedOn(port: string): string[] {
  const hex = Number(port).toString(16).toUpperCase().padStart(4, "0");
  const lines = ["/proc/net/tcp", "/proc/net/tcp6"].flatMap((file) => readFileSync(file, "utf8").split("\n"));
  return lines.flatMap((line) => {
    const [, local = "", , state] = line.trim().split(/\s+/);
    return state === "0A" && local.endsWith(`:${hex}`) ? [local.split(":")[0] ?? ""] : [];
  });
}
const LOOPBACK = "0100007F";

test("the laptop alone reaches it, unless phones are let in; settings of theirs that are wrong are one line each", async () => {
  const phones = { STILLPINE_PHONES_PORT: "0", STILLPINE_ANNOUNCE: "no" };
  putYard(folder, "empty");
  const running = await startApplication({ folder, args: ["--phones"], env: phones });
  expect(listenedOn(new URL(running.url).port)).toEqual([LOOPBACK]);
  expect(running.phones).toMatch(/^https:\/\/still-pine\.local:\d+$/);
  const taken = new URL(running.phones ?? "").port;
  expect(listenedOn(taken).some((address) => address !== LOOPBACK)).toBe(true);
  const key = path.join(folder, "phones/authority.key.pem");
  expect((spawnSync("stat", ["-c", "%a", key], { encoding: "utf8" }).stdout ?? "").trim()).toBe("600");
  const before = readFileSync(path.join(folder, "phones/authority.crt.pem"), "utf8");
  for (const [env, line] of [
    [{ STILLPINE_PHONES_PORT: taken }, `Port ${taken} for phones is taken by another program: set another one`],
    [{ STILLPINE_PHONES_PORT: "x" }, "STILLPINE_PHONES_PORT: expected a number from 0 to 65534"],
    [{ STILLPINE_NAME: "our yard" }, "STILLPINE_NAME: expected a name of letters, digits and dashes"],
    [{ STILLPINE_CERT: "cert.pem" }, "STILLPINE_CERT and STILLPINE_KEY go together"],
    [{ STILLPINE_CERT: "/none.pem", STILLPINE_KEY: "/none.pem" }, "STILLPINE_CERT: /none.pem cannot be read"],
    [{ STILLPINE_CERT: key, STILLPINE_KEY: key }, "STILLPINE_CERT and STILLPINE_KEY do not go together"],
  ] as const)
    expect(await refusal({ args: ["--empty", "--phones"], env: { ...phones, ...env } })).toContain(line);
  await running.stop();
  // The authority stays: a phone that trusted it trusts it still.
  const again = await startApplication({ folder, args: ["--phones"], env: phones });
  expect(readFileSync(path.join(folder, "phones/authority.crt.pem"), "utf8")).toBe(before);
  await again.stop();
  writeFileSync(key, "no key");
  expect(await refusal({ folder, args: ["--phones"], env: phones })).toContain("cannot be used");
});

test("of starts at one moment one has the folder", async () => {
  for (let n = 0; n < 3; n += 1) {
    const all = await Promise.allSettled([1, 2, 3].map(() => startApplication({ folder, args: ["--empty"] })));
    const running = all.flatMap((one) => (one.status === "fulfilled" ? [one.value] : []));
    expect(running).toHaveLength(1);
    for (const one of all)
      if (one.status === "rejected") expect(String(one.reason)).toContain(`Still Pine already runs on ${folder}`);
    await running[0]?.stop();
  }
});

test("a folder that cannot be written, one of another version and a lost password are one line each", async () => {
  const file = path.join(folder, "file");
  writeFileSync(file, "");
  expect(await refusal({ folder: path.join(file, "data") })).toContain(
    "cannot be written: make it writable, or set STILLPINE_DATA",
  );
  if (!isRoot) {
    chmodSync(folder, 0o555);
    expect(await refusal({ folder })).toContain(`The data folder ${folder} cannot be written`);
    chmodSync(folder, 0o755);
  }
  mkdirSync(path.join(folder, "cluster"));
  writeFileSync(path.join(folder, "cluster/PG_VERSION"), "9\n");
  expect(await refusal({ folder })).toContain(`The data in ${folder} belongs to PostgreSQL 9, which is not installed`);
  rmSync(path.join(folder, "cluster"), { recursive: true });
  const first = await startApplication({ folder, args: ["--empty"] });
  await first.stop();
  const password = path.join(folder, "password");
  expect((spawnSync("stat", ["-c", "%a", password], { encoding: "utf8" }).stdout ?? "").trim()).toBe("600");
  const kept = readFileSync(password, "utf8");
  writeFileSync(password, "wrong\n");
  expect(await refusal({ folder })).toContain("does not open the database");
  expect(processesOn(folder)).toEqual([]);
  rmSync(password);
  expect(await refusal({ folder })).toContain("put back the one that belongs to the database");
  writeFileSync(password, kept);
  expect(await refusal({ folder })).toBe("it started");
});

test("a full disk is one line with what to do", async () => {
  const small = path.join(folder, "small");
  mkdirSync(small);
  const mount = (...words: string[]) =>
    spawnSync(isRoot ? "mount" : "sudo", isRoot ? words : ["-n", "mount", ...words]).status;
  const isMounted = mount("-t", "tmpfs", "-o", "size=20m,mode=777", "tmpfs", small) === 0;
  test.skip(!isMounted, "this machine does not let tests mount a small disk");
  try {
    expect(await refusal({ folder: small })).toContain(
      `The disk holding ${small} is full: free at least 200 MB there, or set STILLPINE_DATA`,
    );
  } finally {
    spawnSync(isRoot ? "umount" : "sudo", isRoot ? [small] : ["-n", "umount", small]);
  }
});

test("another database on 5432 is left alone", async () => {
  const neighbour = createServer().on("error", () => undefined);
  await new Promise<void>((resolve) => neighbour.listen(5432, "127.0.0.1", resolve).on("error", () => resolve()));
  let asked = "";
  neighbour.on("connection", (socket) =>
    socket.on("error", () => undefined).on("data", (data) => (asked += data.toString())),
  );
  const application = await startApplication({ folder, args: ["--empty"] });
  expect((await fetch(`${application.url}/api/yard`)).status).toBe(200);
  await application.stop();
  await new Promise((resolve) => neighbour.close(resolve));
  expect(asked).toBe("");
});
