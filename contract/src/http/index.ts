export * from "./alone";
export * from "./bodies";
export * from "./limits";
export * from "./phones";
export * from "./together";
export type * from "./views";
export { openApi } from "./openapi";
export { ANY_ROUTE_REFUSES, ROUTES, type Right, type RouteSpec } from "./routes";
export * from "./check-up";
