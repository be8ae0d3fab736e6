import { createServer, type Server } from "node:http";
import { connect, type AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { safely } from "../process/safely";
import { trustPage } from "./trust-page";

let server: Server;
beforeAll(async () => {
  const page = trustPage({ address: "https://still-pine.local:1", fingerprint: "AB:CD", der: Buffer.from("der") });
  server = createServer((request, response) => {
    if (request.url === "/throws") return safely(() => JSON.parse("{"))(request, response);
    if (request.url === "/rejects") return safely(() => Promise.reject(new Error("later")))(request, response);
    return page(request, response);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
});
afterAll(() => new Promise((resolve) => server.close(resolve)));

/** Sends bytes as they are, as no client library would, and gives the first line of the answer. */
const raw = (bytes: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect((server.address() as AddressInfo).port, "127.0.0.1", () => socket.write(bytes));
    let answer = "";
    socket.on("data", (piece) => (answer += piece.toString()));
    socket.on("end", () => resolve(answer.split("\r\n")[0] ?? ""));
    socket.on("error", reject);
  });

const HEAD = "HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n";

describe("the page without HTTPS", () => {
  it.each([
    "//",
    "//:0",
    "///",
    "http://",
    "http://[",
    "*",
    "/\\",
    "//%",
    "/still-pine-yard.crt%00",
    "/?//",
    "http://x:99999/",
  ])("answers %s and stays up", async (address) => {
    expect(await raw(`GET ${address} ${HEAD}`)).toMatch(/^HTTP\/1\.1 (200|400|404) /);
    expect(await raw(`GET / ${HEAD}`)).toBe("HTTP/1.1 200 OK");
  });

  it("is found under its address with and without a query", async () => {
    for (const address of ["/", "/?a=1", "/still-pine-yard.crt", "/still-pine-yard.crt?1"])
      expect(await raw(`GET ${address} ${HEAD}`)).toBe("HTTP/1.1 200 OK");
  });
});

describe("a listener that throws", () => {
  it.each(["/throws", "/rejects"])("at %s answers 500 and goes on", async (address) => {
    expect(await raw(`GET ${address} ${HEAD}`)).toBe("HTTP/1.1 500 Internal Server Error");
    expect(await raw(`GET / ${HEAD}`)).toBe("HTTP/1.1 200 OK");
  });
});
