import type { z } from "zod";

export type Right = "open" | "write" | "all" | "laptop";

/**
 * One endpoint, declared once: the server's route, OpenAPI, the page's request, what a phone answers by itself, who is let in and
 * the tests are all made from this.
 */
export interface Endpoint {
  method: "get" | "put" | "post";
  /** Below /api, parameters in braces. */
  path: string;
  says: string;
  parameters?: Readonly<Record<string, z.ZodType>>;
  query?: z.ZodObject;
  /**
   * Who may: anybody; whoever was let in, a helper for the one outing they write down; those let in with all rights, which is
   * what an endpoint needs that says nothing; the person at the laptop.
   */
  right?: Right;
  /** The row's version has to be sent in If-Match. */
  versioned?: boolean;
  /** What is sent; `readBy` where it is read by a looser schema than it is described by. */
  body?: { type: string; schema?: z.ZodType; readBy?: z.ZodType };
  /** By status: a schema for JSON, the content type of anything else, or "" for no content. */
  answers: Readonly<Record<number, z.ZodType | string>>;
  /** Statuses of refusals, besides those any endpoint may answer with. */
  refuses?: readonly number[];
  /** A device that is alone answers it by itself, from what it keeps. */
  offline?: true;
}

/** Keeps what was declared as it was written, so that types can be read off it. */
export const endpoint = <const Declared extends Endpoint>(declared: Declared): Declared => declared;

export const json = <Schema extends z.ZodType>(schema: Schema) => described(schema, schema);

/** A body that is described by one schema and read by a looser one. */
export const described = <Schema extends z.ZodType, By extends z.ZodType>(schema: Schema, readBy: By) =>
  ({ type: "application/json", schema, readBy }) as const;

/** What any endpoint may answer with: bad input, not let in, a foreign page or no right to it, too large, the database away. */
export const ANY_ROUTE_REFUSES = [400, 401, 403, 413, 503, 507] as const;

/** The names in the braces of a path. */
type NamesIn<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}` ? Name | NamesIn<Rest> : never;
export type ParamsOf<One extends Endpoint> = { readonly [Name in NamesIn<One["path"]>]: string };

/** A query as a caller says it, and as it is read. */
export type QuerySaid<One extends Endpoint> = One extends { query: infer Query extends z.ZodType }
  ? z.input<Query>
  : undefined;
export type QueryRead<One extends Endpoint> = One extends { query: infer Query extends z.ZodType }
  ? z.output<Query>
  : undefined;

/** A body as a caller says it, and as it is read. */
export type BodySaid<One extends Endpoint> = One extends { body: { readBy: infer Body extends z.ZodType } }
  ? z.input<Body>
  : undefined;
export type BodyIn<One extends Endpoint> = One extends { body: { readBy: infer Body extends z.ZodType } }
  ? z.output<Body>
  : undefined;

type Json<Answer> = Answer extends z.ZodType ? z.output<Answer> : null;
/** What it answers with as JSON; null where it answers with nothing or with a file. */
export type AnswerOf<One extends Endpoint> = One["answers"] extends { 200: infer Answer }
  ? Json<Answer>
  : One["answers"] extends { 201: infer Answer }
    ? Json<Answer>
    : null;

/** An address below /api. @param query what is not said is left out */
export function addressOf(
  path: string,
  params: Readonly<Record<string, string>>,
  query: Readonly<Record<string, unknown>> = {},
): string {
  const place = path.slice(1).replace(/\{(\w+)\}/g, (_all, name: string) => encodeURIComponent(params[name] ?? ""));
  const said = Object.entries(query).filter(([, value]) => value !== undefined && value !== "");
  const asked = new URLSearchParams(said.map(([name, value]): [string, string] => [name, String(value)])).toString();
  return asked ? `${place}?${asked}` : place;
}

/** Matches addresses below /api; its groups are the parameters as they stand there, still encoded. */
export const patternOf = ({ path }: Endpoint): RegExp =>
  new RegExp(`^${path.replaceAll(".", "\\.").replace(/\{(\w+)\}/g, "(?<$1>[^/]+)")}/?$`, "i");
