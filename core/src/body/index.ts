/** What the body weighs and measures, in SI; hands, inches and pounds at the edge. */
export * from "./units";
export * from "./weight";
