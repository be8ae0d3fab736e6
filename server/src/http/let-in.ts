import { isIPv6 } from "node:net";
import { parseCookie } from "cookie";
import type { Request, RequestHandler, Response } from "express";
import { ALL_ENDPOINTS, patternOf, type HelloView, type Right } from "@still-pine/contract/http";
import type { Context } from "./context";
import { doorOf, type Door } from "./guard";
import { HttpProblem } from "./problems";
import { deviceOfKey, type DeviceRow, type NoKey } from "../store/devices";
import { findLock, type YardLock } from "../store/yard";
import { heldTo, may, type Actor } from "../access/actor";

/** Cookies that carry keys. The phones' one never leaves HTTPS, and no other host can set it. */
const COOKIES = { phones: "__Host-still-pine", laptop: "still-pine-laptop" } as const;
/** Which yard a device takes this server for. */
const YARD_HEADER = "still-pine-yard";

/** Who asks, at which door, and why they are a stranger where they thought they were none. */
export interface Asking {
  door: Door;
  actor: Actor;
  why: HelloView["why"];
  yard: YardLock | null;
}

const known = new WeakMap<Request, Asking>();

/** Who asks. @throws where the request has not passed `letIn` */
export function askingOf(request: Request): Asking {
  const asking = known.get(request);
  if (!asking) throw new Error("nobody was asked who they are");
  return asking;
}

export const actorOf = (request: Request): Actor => askingOf(request).actor;

/** The key a browser sent for a door. */
export const keyOf = (request: Request, door: Door): string | undefined =>
  parseCookie(request.headers.cookie ?? "")[COOKIES[door]];

/** Where a request comes from, as wrong tries are counted: an address; of an IPv6 address the network, for one machine has many. */
export function originOf(request: Request): string {
  const address = (request.socket.remoteAddress ?? "").replace(/^::ffff:/, "").replace(/%.*$/, "");
  if (!isIPv6(address)) return address;
  const [before = "", after] = address.split("::");
  const groups = (text = ""): string[] => text.split(":").filter(Boolean);
  const left = groups(before);
  const zeros = after === undefined ? 0 : 8 - left.length - groups(after).length;
  return [...left, ...Array<string>(zeros).fill("0"), ...groups(after)].slice(0, 4).join(":");
}

async function lookAt(request: Request, { db, now }: Context): Promise<Asking> {
  const door = doorOf(request);
  const yard = await findLock(db);
  const as = (actor: Actor): Asking => ({ door, actor, why: null, yard });
  const stranger = (why: HelloView["why"]): Asking => ({ door, actor: { kind: "stranger" }, why, yard });
  const meant = request.headers[YARD_HEADER];
  if (yard && meant !== undefined && meant !== yard.id) return stranger("other-yard");
  if (door === "laptop" && !yard?.isLocked) return as({ kind: "laptop" });
  const key = keyOf(request, door);
  const device = yard && key !== undefined ? await deviceOfKey(db, yard.id, key, now()) : null;
  // What opens the laptop is the pass phrase: a phone's key, a helper's least of all, is none for it, nor the other way round.
  if (door === "laptop") return isOpen(device) && device.isLaptop ? as({ kind: "laptop" }) : stranger("locked");
  if (!isOpen(device)) return stranger(device);
  if (device.isLaptop) return stranger("unknown");
  const { id, recorder, name, rights, outing } = device;
  const who = { kind: "device", id, recorder, name, expiresAt: device.expiresAt.getTime() } as const;
  return as(rights === "write" && outing !== null ? { ...who, rights, outing } : { ...who, rights: "all" });
}

const isOpen = (device: DeviceRow | NoKey | null): device is DeviceRow => typeof device === "object" && device !== null;

/** Whether whoever asked once would still be let in as the same. */
export async function isStillLetIn(request: Request, context: Context): Promise<boolean> {
  const { kind } = actorOf(request);
  return (await lookAt(request, context)).actor.kind === kind;
}

interface Way {
  method: string;
  pattern: RegExp;
  right: Right;
}

const WAYS: readonly Way[] = ALL_ENDPOINTS.map((one) => ({
  method: one.method.toUpperCase(),
  pattern: patternOf(one),
  right: one.right ?? "all",
}));

const PAIR = "What is recorded on it stays on it: make a code on the laptop, under Yard, Phones, and pair it.";
const WHY_NOT: Record<NonNullable<HelloView["why"]>, string> = {
  unknown: `This device is not paired with this yard. ${PAIR}`,
  withdrawn: `This phone was shut out on the laptop. ${PAIR}`,
  expired: `This phone was not used for so long that its key has ended. ${PAIR}`,
  locked: "The laptop is locked: type the yard's pass phrase.",
  "other-yard": "This is another yard's Still Pine. What was recorded for your yard is not given to it.",
};

/** The refusal of whoever is not let in. */
export const notLetIn = (why: HelloView["why"]): HttpProblem =>
  new HttpProblem(401, "Not let in", WHY_NOT[why ?? "unknown"], { why: why ?? "unknown" });

const notTheirs = (): HttpProblem =>
  new HttpProblem(403, "Not yours to do", "This phone may write down its outing, and nothing else.");

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
    if (!may(asking.actor, right)) throw asking.actor.kind === "stranger" ? notLetIn(asking.why) : notTheirs();
    const held = heldTo(asking.actor);
    if (held !== null && found?.outing !== undefined && decodeURIComponent(found.outing) !== held) throw notTheirs();
    next();
  };
}

/** Gives a browser its key: the laptop's where the pass phrase was typed, a phone's where a code was. */
export function giveKey(response: Response, to: Door, key: string, expiresAt: string): void {
  response.cookie(COOKIES[to], key, {
    httpOnly: true,
    secure: to === "phones",
    sameSite: "strict",
    path: "/",
    expires: new Date(expiresAt),
  });
}
