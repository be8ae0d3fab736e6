import { TLSSocket } from "node:tls";
import { isTooDeep, LEVELS_MOST, unstorable } from "@still-pine/contract/record";
import type { Request, RequestHandler, Response } from "express";
import { HttpProblem } from "./problems";

/** Refuses a body by its announced size, before a byte of it is read. */
export function atMost(bytes: number): RequestHandler {
  return (request, response, next) => {
    if (Number(request.headers["content-length"] ?? 0) > bytes) throw tooLarge(response, bytes);
    next();
  };
}

/** Says that a body is larger than is taken, and that nobody listens to the rest of it. */
export function tooLarge(response: Response, bytes: number): HttpProblem {
  response.set("Connection", "close");
  return new HttpProblem(413, "Too large", `This is larger than the ${Math.round(bytes / MB)} MB that are taken here.`);
}

const MB = 1024 * 1024;
const LOOPBACK = ["127.0.0.1", "localhost", "[::1]"];

export type Door = "laptop" | "phones";

/** The laptop's own pages come over loopback; what comes over HTTPS comes from a phone. */
export const doorOf = (request: Request): Door => (request.socket instanceof TLSSocket ? "phones" : "laptop");

/**
 * The server answers its own pages only: a page elsewhere, or a foreign name that points to this machine, gets nothing.
 *
 * @param portOf the port on loopback
 * @param phoneHosts the names and addresses under which phones reach it over HTTPS, with the port
 */
export function ownPagesOnly(portOf: () => number, phoneHosts: () => readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const isPhone = doorOf(request) === "phones";
    const hosts = isPhone ? phoneHosts() : LOOPBACK.map((host) => `${host}:${portOf()}`);
    const own = `${isPhone ? "https" : "http"}://`;
    const { host = "", origin, "sec-fetch-site": site } = request.headers;
    if (!hosts.includes(host.toLowerCase()))
      throw new HttpProblem(
        403,
        "Not here",
        `Expected this server's own address, such as ${own}${hosts[0] ?? ""}, found the host ${JSON.stringify(host.slice(0, 80))}.`,
      );
    const isOwn = origin === undefined || hosts.some((name) => origin === `${own}${name}`);
    if (!isOwn || site === "cross-site" || site === "same-site")
      if (!(request.method === "GET" && request.headers["sec-fetch-mode"] === "navigate" && origin === undefined))
        throw new HttpProblem(403, "Not here", "Only Still Pine's own pages may talk to this server.");
    next();
  };
}

/** An address no database could look up, refused before any route sees it. */
export const readableAddress: RequestHandler = (request, _response, next) => {
  let address: string;
  try {
    address = decodeURIComponent(request.url.replaceAll("+", " "));
  } catch (cause) {
    throw new HttpProblem(
      400,
      "Bad address",
      "The address holds a % that is not followed by two digits of UTF-8.",
      {},
      { cause },
    );
  }
  if (address.includes("\0")) throw new HttpProblem(400, "Bad address", "The address holds a NUL character.");
  next();
};

/** What no database can hold is refused at the door. Entries are looked at one by one, so that one of them bars no other. */
export const storableBody: RequestHandler = (request, _response, next) => {
  if (request.path === "/events") {
    next();
    return;
  }
  const body: unknown = request.body;
  const bad = isTooDeep(body) ? `more than ${LEVELS_MOST} levels of lists and objects` : unstorable(body);
  if (bad !== undefined)
    throw new HttpProblem(400, "Bad input", "Some fields are not as expected.", {
      errors: [{ path: "", expected: "text and lists a database can hold", found: bad }],
    });
  next();
};
