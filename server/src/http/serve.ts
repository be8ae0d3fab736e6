import type { IRouter, Request, RequestHandler, Response } from "express";
import type { AnswerOf, BodyIn, Endpoint, ParamsOf, QueryRead } from "@still-pine/contract/http";
import { parseBody, readVersion } from "./problems";

/** What was asked of an endpoint, read as it is declared. */
export interface Asked<One extends Endpoint> {
  params: ParamsOf<One>;
  query: QueryRead<One>;
  body: BodyIn<One>;
  /** The version of the row that was seen; 0 where the endpoint wants none. */
  version: number;
  request: Request;
  response: Response;
}

/**
 * Serves an endpoint as it is declared: its query, body and version are read, and its answer goes out as JSON with the version as
 * its ETag. A handler that sends a file or a stream uses `serveRaw`.
 *
 * @param handle answers; another status than 200 is set on the response
 * @param before what reads a body that is not JSON
 */
export function serve<One extends Endpoint>(
  router: IRouter,
  declared: One,
  handle: (asked: Asked<One>) => Promise<AnswerOf<One>> | AnswerOf<One>,
  ...before: RequestHandler[]
): void {
  const handleRaw = async (asked: Asked<One>): Promise<void> => {
    const answer: unknown = await handle(asked);
    const { response } = asked;
    if (declared.answers[204] !== undefined) response.status(204).end();
    else {
      const version = declared.versioned ? (answer as { version?: number }).version : undefined;
      if (version !== undefined && declared.answers[200] !== undefined) response.set("ETag", `"${version}"`);
      response.json(answer);
    }
  };
  serveRaw(router, declared, handleRaw, ...before);
}

/** Serves an endpoint whose handler sends the answer by itself. @param before what reads a body that is not JSON */
export function serveRaw<One extends Endpoint>(
  router: IRouter,
  declared: One,
  handle: (asked: Asked<One>) => Promise<void> | void,
  ...before: RequestHandler[]
): void {
  const { method, path, query, body, versioned } = declared;
  router[method](path.replace(/\{(\w+)\}/g, ":$1"), ...before, async (request, response) => {
    const read = {
      query: query ? parseBody(query, request.query) : undefined,
      body: body?.readBy ? parseBody(body.readBy, request.body) : undefined,
    };
    const version = versioned ? readVersion(request.headers["if-match"]) : 0;
    await handle({ params: request.params, ...read, version, request, response } as unknown as Asked<One>);
  });
}
