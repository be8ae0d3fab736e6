import { addDays } from "../record";
import { isCarried } from "./about";
import type { Judging } from "./judging";
import { leastWork } from "./least-work";
import { isSameSide } from "./same-side";
import { hasGateAhead, type NeedState, type SideState, type StepState } from "./states";
import { isNeedMet, isRefMet, metFor, missingOf, sideStatus, stepStatus } from "./status";
import type { FindingCode, LeastWork, OpenAction } from "./types";

export type Action = Omit<OpenAction, "text">;

/** Works out what would open steps on one day; what one step takes is worked out once. */
export class Opener {
  private readonly costs = new Map<StepState, number>();
  private readonly below = new Map<StepState, readonly NeedState[]>();
  private readonly closures = new Map<StepState, ReadonlySet<StepState>>();

  constructor(private readonly judging: Judging) {}

  /** The least that would make a step steady: what it rests on first, then side by side; empty when it is. */
  actionsFor(state: StepState): Action[] {
    return [...this.needActions(state), ...state.sides.flatMap((side) => this.sideActions(state, side))];
  }

  /** Needs matter until a step has once been steady; of those that rest on each other only the upper one is named. */
  private needActions(state: StepState): Action[] {
    const wanted = this.leastBelow(state);
    const shown = wanted.filter(
      (one, index) =>
        wanted.findIndex((other) => other.state === one.state && sameAsk(other, one)) === index &&
        !wanted.some(
          (other) =>
            other.state !== one.state && missingOf(one).length === 0 && this.closureOf(other.state).has(one.state),
        ),
    );
    return shown.map(({ ref, state: under }) => {
      const what = [
        ...(ref.rung !== undefined && (under.rung !== null || under.step.standard.dose?.unit === "rung")
          ? [`rung ${ref.rung}`]
          : []),
        ...new Set(missingOf({ ref, state: under }).map((one) => one.what)),
      ].join(", ");
      return { code: "rests-on", step: under.step.id, ...(what ? { what } : {}) };
    });
  }

  /** What a step rests on and lacks, by the ways that take least; nothing once it has been steady. */
  private leastBelow(state: StepState): readonly NeedState[] {
    let below = this.below.get(state);
    if (!below) {
      const wasSteady =
        isCarried(this.judging.about, state.step.id) || state.sides.every((side) => side.readySince !== null);
      below = wasSteady ? [] : state.needs.flatMap((need) => this.leastWay(state, need));
      this.below.set(state, below);
    }
    return below;
  }

  private leastWay(state: StepState, need: readonly (readonly NeedState[])[]): readonly NeedState[] {
    if (isNeedMet(need, this.judging, metFor(state))) return [];
    const ways = need
      .filter((way) => way.length > 0)
      .map((way) =>
        way.filter((one) => !isRefMet(one, this.judging, metFor(state)) && !this.isFreshenedBy(state, one)),
      );
    const cost = (way: readonly NeedState[]): number =>
      way.reduce((sum, one) => sum + this.costOf(one.state) + missingOf(one).length, 0);
    return ways.toSorted((a, b) => cost(a) - cost(b))[0] ?? [];
  }

  /** Whether a step that only waits for its check is freshened anyway by the asks that one above it still takes. */
  private isFreshenedBy(upper: StepState, one: NeedState): boolean {
    if (missingOf(one).length > 0) return false;
    if (stepStatus(one.state, this.judging, true) !== "rusty") return false;
    const asked = upper.sides.filter(
      (side) => !this.isSteady(upper, side) && (side.evidence.asked === 0 || this.takesAsks(upper, side)),
    );
    const isGateAhead = hasGateAhead(one.state, this.judging.about);
    return one.state.sides
      .filter((side) => side.evidence.fresh.isCheckDue(this.judging.today, isGateAhead))
      .every((side) => asked.some((other) => isSameSide(other.side, side.side)));
  }

  private takesAsks(state: StepState, side: SideState): boolean {
    const work = this.workOn(state, side);
    return work !== null && work.asks + work.places + work.people + work.settings.length + Number(work.stretch) > 0;
  }

  /** Asks a step still takes, with all it rests on. */
  private costOf(state: StepState): number {
    const known = this.costs.get(state);
    if (known !== undefined) return known;
    const own = state.sides.reduce((sum, side) => {
      if (this.isSteady(state, side)) return sum;
      return sum + Math.max(1, this.workOn(state, side)?.asks ?? 0);
    }, 0);
    const cost = this.leastBelow(state).reduce((sum, one) => sum + this.costOf(one.state), own);
    this.costs.set(state, cost);
    return cost;
  }

  /** The steps that have to be made steady on the way to one. */
  private closureOf(state: StepState): ReadonlySet<StepState> {
    const known = this.closures.get(state);
    if (known) return known;
    const closure = new Set<StepState>();
    for (const one of this.leastBelow(state)) {
      closure.add(one.state);
      for (const under of this.closureOf(one.state)) closure.add(under);
    }
    this.closures.set(state, closure);
    return closure;
  }

  private isSteady(state: StepState, side: SideState): boolean {
    return sideStatus(state, side, this.judging) === "steady";
  }

  private workOn(state: StepState, side: SideState): LeastWork | null {
    const isNewDay = side.evidence.lastDay === null || side.evidence.lastDay < this.judging.today;
    const key = `${isNewDay} ${state.workedIn !== null}`;
    if (side.known.least?.key !== key)
      side.known.least = {
        key,
        work: leastWork({
          state,
          side,
          numbers: this.judging.program.judge,
          today: this.judging.today,
          workedBefore: state.workedIn !== null,
        }),
      };
    return side.known.least.work;
  }

  /** Whether the check of a side falls due while the other sides are still worked on. */
  private fallsDueMeanwhile(state: StepState, side: SideState): boolean {
    const last = Math.max(
      0,
      ...state.sides.map((other) => {
        const work = this.isSteady(state, other) ? null : this.workOn(state, other);
        return work ? work.days - 1 + Number(work.later) : 0;
      }),
    );
    return (
      last > 0 &&
      side.evidence.fresh.isCheckDue(addDays(this.judging.today, last), hasGateAhead(state, this.judging.about))
    );
  }

  private sideActions(state: StepState, side: SideState): Action[] {
    const on = (code: FindingCode, count: number, what?: string, outings?: number): Action => ({
      code,
      ...(side.side === "none" ? {} : { side: side.side }),
      count,
      ...(outings === undefined ? {} : { outings }),
      ...(what ? { what } : {}),
    });
    if (this.isSteady(state, side)) return this.fallsDueMeanwhile(state, side) ? [on("fresh", 1)] : [];
    const work = this.workOn(state, side);
    if (!work) return [];
    const { places, people, settings, stretch, ease } = work;
    const extras = [
      ...(places > 0 ? [on("elsewhere", places, "place")] : []),
      ...(people > 0 ? [on("elsewhere", people, "person")] : []),
      ...(settings.length > 0 ? [on("elsewhere", settings.length, settings.join(" and "))] : []),
      ...(stretch ? [on("elsewhere", 1, "stretch")] : []),
      ...(ease ? [on("not-proven-relaxed", 1)] : []),
    ];
    const isDue = side.evidence.fresh.isCheckDue(this.judging.today, hasGateAhead(state, this.judging.about));
    const own = this.ownActions(state, work).map(({ code, count, what, outings }) => on(code, count, what, outings));
    if (own.length === 0 && extras.length === 0 && isDue) return [on("fresh", 1)];
    return [...own, ...extras];
  }

  /** Asks and days as the fewest things to say. */
  private ownActions(
    { step }: StepState,
    { missing, asks, days, outings, later, places, people, settings, stretch, ease }: LeastWork,
  ): { code: FindingCode; count: number; outings?: number; what?: string }[] {
    const needed = missing.filter((code): code is FindingCode => code !== "not-proven-relaxed");
    if (needed.length === 0) return [];
    const has = (code: FindingCode): boolean => needed.includes(code);
    const spread = days > 1 || later;
    const byDays = (["different-days", "relaxed", "cold-asks"] as const).find(has) ?? "different-days";
    const lacksAsks = has("clean-share") || has("lately");
    const byAsks: FindingCode = has("light") && !lacksAsks ? "light" : "clean-share";
    // Asks in other places, settings or with a sign of ease are clean asks too.
    const elsewhere = Math.max(places, people, settings.length, stretch ? 1 : 0);
    const carried = Math.max(elsewhere, ease ? 1 : 0);
    if (step.kind !== "moment" && has("clean-share"))
      return !spread && asks <= elsewhere ? [] : [{ code: "clean-share", count: days, what: "days" }];
    if (!spread && asks <= carried) return [];
    if (asks > Math.max(days, carried))
      return [
        { code: byAsks, count: asks, ...(outings > 1 ? { outings } : {}) },
        ...(spread ? [{ code: byDays, count: days }] : []),
      ];
    if (spread) return [{ code: byDays, count: days }];
    return [{ code: has("relaxed") ? "relaxed" : has("cold-asks") ? "cold-asks" : byAsks, count: 1 }];
  }
}

const sameAsk = (a: NeedState, b: NeedState): boolean =>
  a.ref.rung === b.ref.rung &&
  missingOf(a)
    .map(({ what }) => what)
    .join() ===
    missingOf(b)
      .map(({ what }) => what)
      .join();
