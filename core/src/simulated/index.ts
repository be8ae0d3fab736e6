/** What would a horse do? Invented horses for the demo yard and for trying the judge; seeded, with no clock of their own. */
export { buildDemoYard, DEMO_SHOWS, DEMO_YARD } from "./demo-yard";
export { asksForHolds, shapeOf, SidePool, tryGate, type GateTrial, type GateTrialPlan } from "./gates-trial";
export { keptBy, outingsUntilLost, type FallPlan } from "./falls";
export type { Shares } from "./one-side";
export { FAMILIES, PLAIN } from "./families";
export { sureAfter, tryFixedShares, type FixedShareCount, type FixedSharePlan } from "./fixed-share";
export { workLive, type LiveRoad, type Presses } from "./live-road";
export { alikeHorse, anySides, compareJudges, judgesBy, mixedHorse } from "./other-judges";
export { keepPace, MILESTONES, shareAfter, type Learner, type OpenedLink, type Pace } from "./pace";
export { SimulatedHorse, type Nature, type SimulatedAnswer } from "./horse";
export { randomFrom, type Random } from "../random";
export { sumTrials, tryJudge, type SideTrial, type TrialPlan, type TrialSums } from "./trial";
export { tellOfDevices, type DeviceAct, type DeviceStory } from "./devices";
