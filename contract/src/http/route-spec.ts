import { z } from "zod";

export type Right = "open" | "write" | "all" | "laptop";

/** Every route there is: what OpenAPI says of the server, and what the tests hold it to. */
export interface RouteSpec {
  method: "get" | "put" | "post";
  /** Below /api, parameters in braces. */
  path: string;
  says: string;
  parameters?: Record<string, z.ZodType>;
  query?: z.ZodObject;
  /**
   * Who may: anybody; whoever was let in, a helper for the one outing they write down; those let in with all rights, which is
   * what a route needs that says nothing; the person at the laptop.
   */
  right?: Right;
  /** The row's version has to be sent in If-Match. */
  versioned?: boolean;
  body?: { type: string; schema?: z.ZodType };
  /** By status: a schema for JSON, the content type of anything else, or "" for no content. */
  answers: Record<number, z.ZodType | string>;
  /** Statuses of refusals, besides those any route may answer with. */
  refuses?: readonly number[];
}

/** What any route may answer with: bad input, not let in, a foreign page or no right to it, too large, the database away. */
export const ANY_ROUTE_REFUSES = [400, 401, 403, 413, 503, 507] as const;

export const json = (schema: z.ZodType): RouteSpec["body"] => ({ type: "application/json", schema });
