export { bodyOfPress, type AskDetails, type AskLine, type Press } from "./press";
