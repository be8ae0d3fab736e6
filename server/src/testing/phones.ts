import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { request } from "node:https";
import { tmpdir } from "node:os";
import path from "node:path";
import { createApp } from "../http/app";
import { openPhonesDoor, type OpenDoor } from "../phones/door";
import { call, type TestYard } from "./throw-away";

/** A yard's door for phones: HTTPS with a certificate of an authority of its own. */
export interface TestPhones {
  door: OpenDoor;
  /** As a phone with this key; without one as a stranger. */
  call(method: string, path: string, sent?: PhoneRequest): Promise<PhoneAnswer>;
  /** Opens a stream of events and waits for its end. */
  stream(path: string, key: string): { opened: Promise<void>; ended: Promise<void>; text(): string };
  /** Lets a phone in; its key, and what it is called in what it records. */
  pair(rights: object, name: string): Promise<{ key: string; recorder: string }>;
  close(): void;
}

interface PhoneRequest {
  key?: string;
  body?: unknown;
  headers?: Record<string, string>;
  /** The address of this machine it is sent from. */
  from?: string;
}

interface PhoneAnswer {
  status: number;
  body: any;
  /** The key that came with it. */
  key: string | undefined;
  headers: NodeJS.Dict<string | string[]>;
}

const COOKIE = "__Host-still-pine";

const to = (port: string, ca: Buffer) => ({
  host: "127.0.0.1",
  port,
  ca,
  servername: "still-pine.local",
  agent: false as const,
});
const headersOf = (port: string, key: string | undefined): Record<string, string> => ({
  Host: `still-pine.local:${port}`,
  ...(key === undefined ? {} : { Cookie: `${COOKIE}=${key}` }),
});

export async function openPhones(yard: TestYard, now: () => string): Promise<TestPhones> {
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-phones-"));
  const app = createApp({ db: yard.db, port: () => 1, now, phones: () => door });
  const door: OpenDoor = await openPhonesDoor(
    { folder, port: 0, trustPort: 0, name: "still-pine.local", own: null, announce: false },
    app,
    { requestTimeout: 10_000, headersTimeout: 10_000, keepAliveTimeout: 5000 },
  );
  const ca = readFileSync(path.join(folder, "phones/authority.crt.pem"));
  const { port } = new URL(door.address);
  const send: TestPhones["call"] = (method, where, { key, body, headers = {}, from } = {}) =>
    new Promise((resolve, reject) => {
      const sent = request(
        {
          ...to(port, ca),
          ...(from === undefined ? {} : { localAddress: from }),
          path: where,
          method,
          headers: {
            ...headersOf(port, key),
            ...(body === undefined ? {} : { "Content-Type": "application/json" }),
            ...headers,
          },
        },
        (response) => {
          const done = (text: string): void => {
            const cookie = response.headers["set-cookie"]?.find((one) => one.startsWith(COOKIE));
            const isJson = /json/.test(response.headers["content-type"] ?? "");
            resolve({
              status: response.statusCode ?? 0,
              body: isJson && text !== "" ? JSON.parse(text) : text,
              key: cookie?.split(/[=;]/)[1],
              headers: response.headers,
            });
          };
          if (response.headers["content-type"]?.startsWith("text/event-stream")) {
            response.destroy();
            done("");
            return;
          }
          let text = "";
          response.setEncoding("utf8");
          response.on("data", (piece: string) => (text += piece));
          response.on("end", () => done(text));
          response.on("error", reject);
        },
      );
      sent.on("error", reject);
      sent.end(body === undefined || typeof body === "string" || Buffer.isBuffer(body) ? body : JSON.stringify(body));
    });
  const stream: TestPhones["stream"] = (where, key) => {
    let open: () => void;
    let text = "";
    const opened = new Promise<void>((resolve) => (open = resolve));
    const ended = new Promise<void>((resolve, reject) => {
      const sent = request({ ...to(port, ca), path: where, headers: headersOf(port, key) }, (response) => {
        response.on("data", (piece: Buffer) => {
          text += piece.toString();
          open();
        });
        response.once("end", resolve);
      });
      sent.on("error", reject);
      sent.end();
    });
    return { opened, ended, text: () => text };
  };
  return {
    door,
    call: send,
    stream,
    pair: async (rights, name) => {
      const made = await call(`${yard.url}/api/codes`, "POST", rights);
      const paired = await send("POST", "/api/pair", { body: { code: made.body.code, name } });
      if (paired.key === undefined) throw new Error(`not let in: ${JSON.stringify(paired.body)}`);
      return { key: paired.key, recorder: paired.body.recorder };
    },
    close: () => {
      door.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
