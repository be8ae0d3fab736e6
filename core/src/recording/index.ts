export { gaitBeside } from "./gaits";
export {
  beginLine,
  changeLine,
  isUnderLine,
  lineOfAsk,
  lineOnSide,
  rungBeside,
  rungReached,
  timeUnit,
  turned,
  watchUnit,
  type LineChange,
} from "./line";
export { bodyOfPress, timed, type AskDetails, type AskLine, type Press } from "./press";
