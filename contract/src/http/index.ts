export * from "./bodies";
export type * from "./views";
