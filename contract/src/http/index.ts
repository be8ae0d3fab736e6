export * from "./bodies";
export type * from "./views";
export { openApi } from "./openapi";
export { ANY_ROUTE_REFUSES, ROUTES, type Right, type RouteSpec } from "./routes";
