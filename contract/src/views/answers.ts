import type { AnswerOf, ENDPOINTS, OfflineName, ParamsOf, QueryRead } from "../http/endpoints";
import type { Diary, LabelView, StringHorse, YardView } from "../http/views";
import type { ProgramsView } from "../http/programs";
import type { RunningView } from "../http/together";
import type { TroubleView } from "../http/troubles";
import type { Gathered, Standing } from "@still-pine/core/readiness";
import type { Day, FoldedOuting, FoldedRecord, RecordEvent, StepId } from "@still-pine/core/record";
import { composeCheckUp } from "./check-up";
import {
  BRIEF_OUTINGS,
  composeBrief,
  composeFeel,
  composeHorse,
  composeOuting,
  composeStep,
  type OutingParts,
} from "./compose";
import type { LabelKind, Labels } from "./labels";
import type { HorseRow } from "./line";

/**
 * What has to be known of a yard to answer its pages. The server knows it from its database, a device that is alone from what it
 * keeps; both answer by the same functions below.
 */
export interface YardPort {
  yard(): Promise<YardView>;
  labels(kind: LabelKind): Promise<LabelView[]>;
  running(): Promise<RunningView>;
  troubles(): Promise<TroubleView[]>;
  programs(): Promise<ProgramsView>;
  lines(): Promise<StringHorse[]>;
  /** Null where the yard has no such horse, or the device does not know him. */
  horse(id: string): Promise<HorsePort | null>;
}

/** What has to be known of one horse; each is looked up when it is asked for. */
export interface HorsePort {
  row: HorseRow;
  today: Day;
  standing(): Promise<Standing>;
  labels(): Promise<Labels>;
  /** A page of his diary; null for one the device does not have. @param skip outings to pass over, the latest first */
  diary(skip: number): Promise<Diary | null>;
  /** What is said of the horse himself, with every correction of it. */
  ofHorse(): Promise<{ events: readonly RecordEvent[]; folded: FoldedRecord }>;
  /** His last outings, in order. */
  latest(most: number): Promise<readonly FoldedOuting[]>;
  /** The last outings in which he was asked something, in order. */
  asked(most: number): Promise<readonly FoldedOuting[]>;
  /** What the record comes to, for every step; null where older outings are not known here. */
  gathered(): Promise<{ gathered: Gathered; outings: readonly FoldedOuting[] } | null>;
  /**
   * The same with what it was folded from, at least for this step; `explained` is gathered from those outings alone, where more
   * were gathered than are known.
   */
  gatheredOf(step: StepId): Promise<{ gathered: Gathered; folded: FoldedRecord; explained?: Gathered } | null>;
  /** The parts of one outing; null where there is none, or it is not known here. */
  outing(id: string): Promise<OutingParts | null>;
}

/** So many outings back the feel square looks. */
const FEEL_OUTINGS = 40;

type Of<Name extends OfflineName> = (typeof ENDPOINTS)[Name];
type Answering<Name extends OfflineName> = (
  port: YardPort,
  asked: { params: ParamsOf<Of<Name>>; query: QueryRead<Of<Name>> },
) => Promise<AnswerOf<Of<Name>> | null>;

/** The answers to what a device may ask alone. Null: there is no such thing here. */
export const ANSWERS: { readonly [Name in OfflineName]: Answering<Name> } = {
  yard: (port) => port.yard(),
  places: (port) => port.labels("place"),
  people: (port) => port.labels("person"),
  running: (port) => port.running(),
  troubles: (port) => port.troubles(),
  programs: (port) => port.programs(),

  string: async (port) => ({ yard: await port.yard(), horses: await port.lines() }),

  horse: async (port, { params }) => {
    const one = await port.horse(params.horse);
    if (!one) return null;
    const [yard, standing, labels, page, ofHorse] = await Promise.all([
      port.yard(),
      one.standing(),
      one.labels(),
      one.diary(0),
      one.ofHorse(),
    ]);
    const { row, today } = one;
    return page && composeHorse({ yard, row, today, standing, labels, page, ofHorse });
  },

  brief: async (port, { params }) => {
    const one = await port.horse(params.horse);
    if (!one) return null;
    const [yard, standing, outings] = await Promise.all([port.yard(), one.standing(), one.latest(BRIEF_OUTINGS)]);
    return composeBrief({ yard, row: one.row, today: one.today, standing, outings });
  },

  diary: async (port, { params, query }) => (await port.horse(params.horse))?.diary(query.skip ?? 0) ?? null,

  feel: async (port, { params }) => {
    const one = await port.horse(params.horse);
    return one && composeFeel(await one.asked(FEEL_OUTINGS));
  },

  step: async (port, { params }) => {
    const one = await port.horse(params.horse);
    const known = await one?.gatheredOf(params.step);
    const state = known?.gathered.byId.get(params.step);
    if (!one || !known || !state) return null;
    return composeStep({ row: one.row, today: one.today, standing: await one.standing(), ...known, state });
  },

  outing: async (port, { params }) => {
    const one = await port.horse(params.horse);
    const parts = await one?.outing(params.outing);
    if (!one || !parts) return null;
    return composeOuting({ row: one.row, today: one.today, standing: await one.standing(), ...parts });
  },

  checkUp: async (port, { params, query }) => {
    const one = await port.horse(params.horse);
    const known = await one?.gathered();
    if (!one || !known) return null;
    const [yard, standing] = await Promise.all([port.yard(), one.standing()]);
    return composeCheckUp({ yard, row: one.row, today: one.today, standing, ...known, asked: query });
  },
};
