import { connect as connectPlain, type Socket } from "node:net";
import { connect as connectTls } from "node:tls";
import { seeded } from "./nonsense";

/** Bytes no client library sends: half requests, two lengths, odd addresses, headers without end, noise. */

const LINES = [
  "GET /api/yard HTTP/1.1",
  "GET // HTTP/1.1",
  "GET http:// HTTP/1.1",
  "GET * HTTP/1.1",
  "OPTIONS * HTTP/1.1",
  "CONNECT localhost:1 HTTP/1.1",
  "POST /api/events HTTP/1.1",
  "PUT /api/yard HTTP/1.0",
  "GET /api/outings/o1/live HTTP/1.1",
  "HEAD /api/outings/o1/live HTTP/1.1",
  "PRI * HTTP/2.0",
  "GET /api/../../etc/passwd HTTP/1.1",
  "GET /api/%00 HTTP/1.1",
  "GET /\u00ff HTTP/1.1",
  "GET  HTTP/1.1",
  "G\u0000T / HTTP/1.1",
  "TRACE / HTTP/1.1",
];
const HEADERS = [
  "Host: localhost",
  "Host: ",
  "Host: a, b",
  "Content-Length: 5",
  "Content-Length: -1",
  "Content-Length: 99999999999999999999",
  "Transfer-Encoding: chunked",
  "Transfer-Encoding: gzip, chunked",
  "Expect: 100-continue",
  "Expect: something",
  "Connection: Upgrade\r\nUpgrade: websocket",
  "Content-Type: application/json",
  "Content-Encoding: gzip",
  "Range: bytes=0-",
  "If-Match: \u0001",
  "Cookie: __Host-still-pine=%",
  `X: ${"y".repeat(9000)}`,
  ...Array.from({ length: 3 }, (_none, n) => `X-${n}\r\n folded: 1`),
];
const BODIES = ["", "{}", '{"events":[', '5\r\n{"a":\r\n0\r\n\r\n', "ffffffffffffffff\r\n", "\u0000\u0001\u0002"];

/** The bytes of one attempt. */
export function rawBytes(seed: number): Buffer {
  const random = seeded(seed);
  const pick = <Item>(items: readonly Item[]): Item => items[Math.floor(random() * items.length)] as Item;
  if (random() < 0.2)
    return Buffer.from(Array.from({ length: Math.floor(random() * 400) }, () => Math.floor(random() * 256)));
  const headers = Array.from({ length: Math.floor(random() * 5) }, () => pick(HEADERS));
  const text = [pick(LINES), ...headers, "", pick(BODIES)].join(random() < 0.9 ? "\r\n" : "\n");
  return Buffer.from(random() < 0.2 ? text.slice(0, Math.floor(text.length * random())) : text, "latin1");
}

/** So long an answer is waited for; to half a request there is none. */
const PATIENCE_MS = 150;

/** Sends bytes as they are. @returns the status of the answer; null where the line was cut or nothing came */
export function sendRaw(port: number, bytes: Buffer, isTls = false): Promise<number | null> {
  return new Promise((resolve) => {
    const socket: Socket = isTls
      ? connectTls({ port, host: "127.0.0.1", rejectUnauthorized: false, servername: "still-pine.local" })
      : connectPlain(port, "127.0.0.1");
    const done = (text: string | null): void => {
      socket.destroy();
      const [, status] = /^HTTP\/1\.[01] (\d{3}) /.exec(text ?? "") ?? [];
      resolve(status === undefined ? null : Number(status));
    };
    socket.setTimeout(PATIENCE_MS, () => done(null));
    socket.once("data", (piece: Buffer) => done(piece.toString("latin1")));
    socket.once("error", () => done(null));
    socket.once("close", () => done(null));
    socket.once(isTls ? "secureConnect" : "connect", () => socket.write(bytes));
  });
}
