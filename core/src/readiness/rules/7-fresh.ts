import { daysBetween, type Day } from "../../record";
import type { SideEvidence } from "../../evidence";
import type { Finding } from "../types";

/** Rule 7 for one side. */
export function freshFinding(side: SideEvidence, today: Day, isGateAhead: boolean): Finding {
  const need = side.fresh.freshFor(isGateAhead);
  const have = side.fresh.freshened === null ? null : daysBetween(side.fresh.freshened, today);
  return {
    code: "fresh",
    met: !side.fresh.isCheckDue(today, isGateAhead),
    have,
    need,
    evidence: side.lastCleanEvent === null ? [] : [side.lastCleanEvent],
  };
}
