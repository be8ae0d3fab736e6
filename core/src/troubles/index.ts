/**
 * Where to look, when something goes wrong? From what a person sees to the body first, and then to the steps under it with this
 * horse's evidence. It never says what is wrong. The table and its order are common practice, no published source.
 */
export { findTroubles } from "./search";
export { lookInto, type Finding } from "./look-into";
export { TROUBLES } from "./table";
export { BODY_FIRST, type BodyLook, type Trouble, type TroubleStep } from "./types";
