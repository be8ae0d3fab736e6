import { alwaysAbove, gatedRungOf, saidOf, type GatedRung } from "../programs";
import type { Day, StepId } from "../record";
import { holdsOn, isCarried } from "./about";
import { groundDue } from "./away";
import { liesAheadAgain, notShownSince } from "./back-again";
import type { Judging } from "./judging";
import { isAhead, type Gathered, type GateState, type NeedState, type StepState } from "./states";
import { isNeedMet, isRefMet, missingOf, stepStatus, withWhole } from "./status";
import type { FindingOf } from "./findings";
import type { Base, Finding, OnTrust, ShutGate } from "./types";

/** Whether a step may be worked on a day: all of it, its rungs before a shut gate, or not; and why, or on what it stands. */
export type Opening =
  | { may: "yes"; onTrust: readonly StepId[] }
  | { may: "small"; onTrust: readonly StepId[]; gate: GatedRung }
  | { may: "no"; why: Finding };

/** May this step be worked on this day, and if not, why not? Whatever proposes work asks here. */
export function mayWork(gathered: Gathered, step: StepId, day: Day): Opening {
  const state = gathered.byId.get(step);
  return state
    ? new Openings(gathered, day).of(state)
    : { may: "no", why: { code: "rests-on", met: false, have: null, need: step, evidence: [] } };
}

/**
 * What may be worked on a day. A step is begun once what it rests on is steady, or good for today; where that guards a person it has to be
 * steady. Only so many links of a chain may stand on what is good for today alone. Nothing beyond a shut gate is worked.
 */
export class Openings {
  private readonly judging: Judging;
  private readonly links = new Map<StepState, number>();
  private shut: { gate: GateState; beyond: ReadonlySet<StepId> }[] | null = null;

  constructor(
    private readonly gathered: Gathered,
    private readonly today: Day,
    private readonly assumed: ReadonlySet<StepId> = new Set(),
  ) {
    this.judging = { program: gathered.program, about: gathered.about, today };
  }

  /** The same with steps taken to be good today, to see what a chain would open. Which gates are shut stays as it is. */
  assuming(assumed: ReadonlySet<StepId>): Openings {
    const other = new Openings(this.gathered, this.today, assumed);
    other.shut = this.shutGates();
    return other;
  }

  /** Whether a gate that lies ahead lacks something of what it asks for. */
  isShut(gate: string): boolean {
    return this.shutGates().some((one) => one.gate.gate.id === gate);
  }

  /** What shut gates hold back; a step within whose ladder the gate stands is named by its rungs, and not here. */
  heldBack(): ShutGate[] {
    return this.shutGates().map(({ gate, beyond }) => ({
      gate: gate.gate.id,
      why: this.gateFinding(gate),
      steps: this.gathered.steps.flatMap((state) =>
        beyond.has(state.step.id) && !this.isWithin(gate, state) ? [state.step.id] : [],
      ),
    }));
  }

  /** Whether a gate stands within a step's own ladder: then it is its higher rungs that are held back. */
  private isWithin({ gate }: GateState, { step }: StepState): boolean {
    return gatedRungOf(this.gathered.program, step)?.gate.id === gate.id;
  }

  of(state: StepState): Opening {
    const opening = this.ofRoad(state);
    const [hold] = opening.may === "no" ? [] : holdsOn(this.gathered.about, state.step.id);
    return hold
      ? { may: "no", why: { code: "held", met: false, have: hold.reason, need: null, evidence: [hold.event] } }
      : opening;
  }

  /** As far as the road goes, whatever a person holds. */
  private ofRoad(state: StepState): Opening {
    const { program, about } = this.gathered;
    const gate = this.shutGateBefore(state.step.id);
    if (gate) {
      const small = gatedRungOf(program, state.step);
      const under = small?.gate.id === gate.gate.id ? this.smallNeeds(small) : null;
      return small && under && this.linksOver(under, state.step.guarded) <= program.judge.trustLinks
        ? { may: "small", onTrust: this.trusted(under), gate: small }
        : { may: "no", why: this.gateFinding(gate) };
    }
    if (isCarried(about, state.step.id)) return { may: "yes", onTrust: [] };
    if (this.linksUnder(state) > program.judge.trustLinks) return { may: "no", why: this.restFinding(state) };
    return { may: "yes", onTrust: this.trusted(state.needs) };
  }

  /** Whether every side of a step is good for today, or taken to be. */
  private isGood({ ref, state }: NeedState): boolean {
    if (missingOf({ ref, state }).length > 0) return false;
    return this.assumed.has(state.step.id) || withWhole(state).some((one) => isGoodToday(one, this.today));
  }

  /** Whether it is rusty: its cold check is due, and what rests on it waits for that. */
  private isOverdue(state: StepState): boolean {
    const words = withWhole(state).map((one) => stepStatus(one, this.judging, true));
    return !words.includes("steady") && words.includes("rusty");
  }

  /** Whether its cold check is taken to have come clean: then it is steady again. */
  private isTakenUpAgain({ ref, state }: NeedState): boolean {
    return this.assumed.has(ref.step) && this.isOverdue(state) && missingOf({ ref, state }).length === 0;
  }

  /** The way of a need that stands on the fewest links; where several do, the first. */
  private wayOf(need: StepState["needs"][number], guarded: boolean): readonly NeedState[] {
    return need.toSorted((a, b) => this.linksOfWay(a, guarded) - this.linksOfWay(b, guarded))[0] ?? [];
  }

  /** Whether what it asks for stands by itself, not on trust. */
  private stands(one: NeedState, guarded: boolean): boolean {
    return this.linksOf(one, guarded) === 0;
  }

  /** What a step that was begun rests on and that does not stand by itself. */
  trustedBy({ needs, step }: StepState): OnTrust[] {
    const refs = needs
      .flatMap((need) => this.wayOf(need, step.guarded))
      .filter((one) => !this.stands(one, step.guarded));
    return refs.map((one) => ({
      step: one.state.step.id,
      status: stepStatus(one.state, this.judging),
      good: this.isGood(one),
    }));
  }

  /** What a step rests on, by the ways that stand on the fewest links; of one of which only the smaller rungs may be worked, what those do. */
  basesOf({ needs, step }: StepState, opening: Opening): Base[] {
    const under = opening.may === "small" ? (this.smallNeeds(opening.gate) ?? []) : needs;
    const refs = under.flatMap((need) => this.wayOf(need, step.guarded));
    return refs.map((one): Base => {
      // A rusty one is steady again once its cold check came clean: one first ask on every side.
      const isRusty = this.isOverdue(one.state);
      return {
        step: one.ref.step,
        ...(one.state.rung === null ? {} : { rung: one.state.rung }),
        stands: !isRusty && this.stands(one, step.guarded),
        waits: one.state.sides.flatMap(({ side, evidence }) =>
          isRusty || evidence.enough.waitsForOne(this.today) ? [side] : [],
        ),
      };
    });
  }

  private smallNeeds({ needs }: GatedRung): NeedState[][][] | null {
    const states = needs.map((id) => this.gathered.byId.get(id));
    return states.every((state) => state !== undefined)
      ? states.map((state) => [[{ ref: { step: state.step.id }, state }]])
      : null;
  }

  /** How many links running stand on trust under a step; infinite where one does not stand at all. */
  private linksUnder(state: StepState): number {
    const known = this.links.get(state);
    if (known !== undefined) return known;
    const found = isCarried(this.gathered.about, state.step.id) ? 0 : this.linksOver(state.needs, state.step.guarded);
    this.links.set(state, found);
    return found;
  }

  private linksOver(needs: StepState["needs"], guarded: boolean): number {
    let most = 0;
    for (const need of needs) {
      if (need.length === 0) continue;
      most = Math.max(most, Math.min(...need.map((way) => this.linksOfWay(way, guarded))));
    }
    return most;
  }

  private linksOfWay(way: readonly NeedState[], guarded: boolean): number {
    let most = 0;
    for (const one of way) most = Math.max(most, this.linksOf(one, guarded));
    return most;
  }

  private linksOf(one: NeedState, guarded: boolean): number {
    // Before what guards a person neither a check-up nor somebody's word is enough.
    if (guarded) return isRefMet(one, this.judging, "guarded") || this.isTakenUpAgain(one) ? 0 : Infinity;
    if (this.holds(one)) return 0;
    return this.isGood(one) ? 1 + this.linksUnder(one.state) : Infinity;
  }

  /** Steady, clean in a check-up of late, or a person's word. */
  private holds(one: NeedState): boolean {
    if (isRefMet(one, this.judging, "going-on")) return true;
    const words = withWhole(one.state).map((state) => stepStatus(state, this.judging, true));
    if (words.includes("steady")) return true;
    if (words.includes("rusty")) return this.isTakenUpAgain(one);
    return saidOf(this.gathered.about.overrides, one.ref.step) !== undefined;
  }

  private trusted(needs: StepState["needs"]): StepId[] {
    const refs = needs.flatMap((need) => this.wayOf(need, false));
    return [...new Set(refs.filter((one) => !this.holds(one)).map(({ state }) => state.step.id))];
  }

  /** The first shut gate on whose far side a step lies. */
  private shutGateBefore(step: StepId): GateState | null {
    return this.shutGates().find(({ beyond }) => beyond.has(step))?.gate ?? null;
  }

  private shutGates(): { gate: GateState; beyond: ReadonlySet<StepId> }[] {
    return (this.shut ??= this.gathered.gates.flatMap((gate) => this.shutParts(gate)));
  }

  /** What lies beyond a gate while it is shut; of one with more to show before he is ridden, that part by itself. */
  private shutParts(gate: GateState): { gate: GateState; beyond: ReadonlySet<StepId> }[] {
    if (liesAheadAgain(gate, this.judging)) return [{ gate, beyond: this.beyond(gate.gate.before) }];
    if (!isAhead(gate, this.gathered.about)) return [];
    const isShown = (needs: GateState["needs"]): boolean =>
      needs.every((need) => isNeedMet(need, this.judging, "gate"));
    if (!isShown(gate.needs)) return [{ gate, beyond: this.beyond(gate.gate.before) }];
    if (isShown(gate.ridden)) return [];
    return [{ gate, beyond: this.beyond(gate.gate.ridden?.before ?? []) }];
  }

  private beyond(steps: readonly StepId[]): ReadonlySet<StepId> {
    return new Set(steps.flatMap((step) => [step, ...alwaysAbove(this.gathered.program, step)]));
  }

  private gateFinding(state: GateState): FindingOf<"gate-shut"> {
    const { gate, needs, ridden, away } = state;
    const isAgain = liesAheadAgain(state, this.judging);
    const unshown = isAgain ? notShownSince(state, this.judging) : [];
    const ground = isAgain && away ? groundDue(away, this.judging) : 0;
    const lacking = [...needs, ...ridden].filter(
      (need) => unshown.includes(need) || !isNeedMet(need, this.judging, "gate"),
    );
    const names = lacking.map((need) =>
      this.wayOf(need, true)
        .map(({ state }) => state.step.id)
        .join(" and "),
    );
    const again = isAgain ? { again: true as const, ground } : {};
    return { code: "gate-shut", met: false, have: { lacks: names, ...again }, need: gate.id, evidence: [] };
  }

  private restFinding({ needs, step }: StepState): Finding {
    const { trustLinks } = this.gathered.program.judge;
    const lacking = needs.find((need) => this.linksOver([need], step.guarded) > trustLinks) ?? [];
    const way = this.wayOf(lacking, step.guarded);
    const one = way.find((ref) => this.linksOf(ref, step.guarded) > trustLinks);
    return {
      code: "rests-on",
      met: false,
      have: one ? { step: one.state.step.id, status: stepStatus(one.state, this.judging) } : null,
      need: {
        anyOf: lacking.map((ways) => ways.map(({ ref }) => ref.step).join(" and ")),
        status: step.guarded ? "steady" : "good today",
      },
      evidence: [],
    };
  }
}

/** Whether every side of a step, or of a step as far as one rung, is good for today. */
export const isGoodToday = ({ sides }: StepState, today: Day): boolean =>
  sides.length > 0 && sides.every(({ evidence }) => evidence.enough.isEnough(today));
