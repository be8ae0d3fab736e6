/** What does a person see of a horse? Views and read models put together from the record, the same wherever that is done. */
export * from "./answers";
export * from "./check-up";
export * from "./compose";
export * from "./labels";
export * from "./line";
export { endIdOf, headIdOf, startIdOf, toOuting } from "./outing-of";
