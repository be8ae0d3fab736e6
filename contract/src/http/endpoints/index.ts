import type { Endpoint } from "./endpoint";
import { OF_FILES } from "./of-files";
import { OF_HORSES } from "./of-horses";
import { OF_ITSELF } from "./of-itself";
import { OF_LEDGER } from "./of-ledger";
import { OF_MEDIA } from "./of-media";
import { OF_PHONES } from "./of-phones";
import { OF_SCHOOLS } from "./of-schools";
import { OF_LABELS, OF_YARD } from "./of-yard";

/** Every endpoint there is, by name. */
export const ENDPOINTS = {
  ...OF_YARD,
  ...OF_SCHOOLS,
  ...OF_LABELS,
  ...OF_HORSES,
  ...OF_FILES,
  ...OF_MEDIA,
  ...OF_LEDGER,
  ...OF_PHONES,
  ...OF_ITSELF,
};
export type EndpointName = keyof typeof ENDPOINTS;
/** Those a device that is alone answers by itself. */
export type OfflineName = {
  [Name in EndpointName]: (typeof ENDPOINTS)[Name] extends { offline: true } ? Name : never;
}[EndpointName];

export const ALL_ENDPOINTS: readonly Endpoint[] = Object.values(ENDPOINTS);
export {
  addressOf,
  ANY_ROUTE_REFUSES,
  patternOf,
  type AnswerOf,
  type BodyIn,
  type BodySaid,
  type Endpoint,
  type ParamsOf,
  type QueryRead,
  type QuerySaid,
  type Right,
} from "./endpoint";
