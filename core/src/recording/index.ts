export {
  beginLine,
  changeLine,
  isUnderLine,
  lineOfAsk,
  lineOnSide,
  rungBeside,
  rungReached,
  turned,
  watchUnit,
  type LineChange,
} from "./line";
export { bodyOfPress, timed, type AskDetails, type AskLine, type Press } from "./press";
