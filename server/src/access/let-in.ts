import { TLSSocket } from "node:tls";
import { parseCookie } from "cookie";
import type { CookieOptions, Request, RequestHandler, Response } from "express";
import { ROUTES, type HelloView, type Right } from "@still-pine/contract/http";
import { HttpProblem } from "../http/problems";
import type { Context } from "../http/app";
import { deviceOfKey } from "../store/devices";
import { findLock, type YardLock } from "../store/yard";
import { heldTo, may, type Actor } from "./actor";

/** Cookies that carry keys. The phones' one never leaves HTTPS, and no other host can set it. */
const COOKIES = { phones: "__Host-still-pine", laptop: "still-pine-laptop" } as const;
/** Which yard a device takes this server for. */
const YARD_HEADER = "still-pine-yard";

export type Door = "laptop" | "phones";

/** Who asks, at which door, and why they are a stranger where they thought they were none. */
export interface Asking {
  door: Door;
  actor: Actor;
  why: HelloView["why"];
  yard: YardLock | null;
}

/** The laptop's own pages come over loopback; what comes over HTTPS comes from a phone. */
export const doorOf = (request: Request): Door => (request.socket instanceof TLSSocket ? "phones" : "laptop");

const known = new WeakMap<Request, Asking>();

/** Who asks. @throws where the request has not passed `letIn` */
export function askingOf(request: Request): Asking {
  const asking = known.get(request);
  if (!asking) throw new Error("nobody was asked who they are");
  return asking;
}

export const actorOf = (request: Request): Actor => askingOf(request).actor;

const keyIn = (request: Request): string | undefined =>
  parseCookie(request.headers.cookie ?? "")[COOKIES[doorOf(request)]];

async function lookAt(request: Request, { db, now }: Context): Promise<Asking> {
  const door = doorOf(request);
  const yard = await findLock(db);
  const stranger = (why: HelloView["why"]): Asking => ({ door, actor: { kind: "stranger" }, why, yard });
  const meant = request.headers[YARD_HEADER];
  if (yard && meant !== undefined && meant !== yard.id) return stranger("other-yard");
  if (door === "laptop" && !yard?.isLocked) return { door, actor: { kind: "laptop" }, why: null, yard };
  const key = keyIn(request);
  if (!yard || key === undefined) return stranger(door === "laptop" ? "locked" : null);
  const device = await deviceOfKey(db, yard.id, key, now());
  if (typeof device === "string") return stranger(door === "laptop" ? "locked" : device);
  const { id, recorder, name, rights, outing } = device;
  if (door === "laptop") return { door, actor: { kind: "laptop" }, why: null, yard };
  const actor: Actor =
    rights === "write" && outing !== null
      ? { kind: "device", id, recorder, name, rights: "write", outing }
      : { kind: "device", id, recorder, name, rights: "all" };
  return { door, actor, why: null, yard };
}

interface Way {
  method: string;
  pattern: RegExp;
  right: Right;
}

const WAYS: readonly Way[] = ROUTES.map(({ method, path, right = "all" }) => ({
  method: method.toUpperCase(),
  pattern: new RegExp(`^${path.replaceAll(".", "\\.").replace(/\{(\w+)\}/g, "(?<$1>[^/]+)")}/?$`, "i"),
  right,
}));

const WHY_NOT: Record<NonNullable<HelloView["why"]>, string> = {
  unknown: "This phone is not paired with this yard.",
  withdrawn: "This phone was shut out on the laptop.",
  expired: "This phone was not used for so long that its key has ended.",
  locked: "The laptop is locked. Type the yard's pass phrase.",
  "other-yard": "This is another yard's Still Pine.",
};

/**
 * Lets in who may use the route that is asked for. It stands before every route, and what no route of the catalogue allows is
 * closed: whoever is not let in cannot even tell what is there from what is not.
 */
export function letIn(context: Context): RequestHandler {
  return async (request, _response, next) => {
    const asking = await lookAt(request, context);
    known.set(request, asking);
    const method = request.method === "HEAD" ? "GET" : request.method;
    const found = WAYS.flatMap((way) => {
      const match = way.method === method ? way.pattern.exec(request.path) : null;
      return match ? [{ right: way.right, outing: match.groups?.["outing"] }] : [];
    })[0];
    const right = found?.right ?? "all";
    if (!may(asking.actor, right)) {
      if (asking.actor.kind === "stranger")
        throw new HttpProblem(
          401,
          "Not let in",
          `${asking.why ? WHY_NOT[asking.why] : "This device is not paired."} What is recorded on it stays on it until it is let in again: make a code on the laptop, under Yard, Phones.`,
          { why: asking.why ?? "unknown" },
        );
      throw new HttpProblem(403, "Not yours to do", "This phone may write down its outing, and nothing else.");
    }
    const held = heldTo(asking.actor);
    if (held !== null && found?.outing !== undefined && decodeURIComponent(found.outing) !== held)
      throw new HttpProblem(403, "Not yours to do", "This phone may write down its outing, and nothing else.");
    next();
  };
}

/** Gives a device its key. */
export function giveKey(request: Request, response: Response, key: string, expiresAt: string): void {
  const door = doorOf(request);
  const options: CookieOptions = {
    httpOnly: true,
    secure: door === "phones",
    sameSite: "strict",
    path: "/",
    expires: new Date(expiresAt),
  };
  response.cookie(COOKIES[door], key, options);
}
