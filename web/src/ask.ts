import type { FetchArgs } from "@reduxjs/toolkit/query/react";
import {
  addressOf,
  type AnswerOf,
  type BodySaid,
  type EndpointName,
  type ENDPOINTS,
  type ParamsOf,
  type QuerySaid,
} from "@still-pine/contract/http";

/**
 * Requests as their endpoints are declared. A path is written out where it is asked, since the declarations hold schemas that no
 * page needs to load; the compiler holds path, parameters, query, body and answer to the declaration.
 */

type All = typeof ENDPOINTS;
type PathOf<Name extends EndpointName> = All[Name]["path"];
type WritingMethod<Name extends EndpointName> = Uppercase<All[Name]["method"]>;

/** What an endpoint answers with. */
export type AnswerTo<Name extends EndpointName> = AnswerOf<All[Name]>;

/** The address of an endpoint below /api. */
export const ask = <Name extends EndpointName>(
  path: PathOf<Name>,
  params: ParamsOf<All[Name]>,
  query?: QuerySaid<All[Name]>,
): string => addressOf(path, params, query as Readonly<Record<string, unknown>> | undefined);

/** The address of an endpoint for a link, an image or a request of one's own. */
export const linkTo = <Name extends EndpointName>(
  path: PathOf<Name>,
  params: ParamsOf<All[Name]>,
  query?: QuerySaid<All[Name]>,
): string => `/api/${ask<Name>(path, params, query)}`;

/** A request that changes something. @param version the version of the row that was seen, where the endpoint wants one */
export const change = <Name extends EndpointName>(
  method: WritingMethod<Name>,
  path: PathOf<Name>,
  params: ParamsOf<All[Name]>,
  { body, version }: { body?: BodySaid<All[Name]>; version?: number } = {},
): FetchArgs => ({
  url: ask<Name>(path, params),
  method,
  body: body ?? {},
  ...(version === undefined ? {} : { headers: { "If-Match": `"${version}"` } }),
});
