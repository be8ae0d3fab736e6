import { versionOf, type EventBody, type RecordEvent } from "../record";
import { sidesOf, type SideKey, type Step } from "../programs";
import { beginLine, bodyOfPress, changeLine, timeUnit, type AskDetails, type LineChange } from "../recording";

/** What a step, or one that rests on it, wants to have said of its asks. */
export interface Wanted {
  changes: readonly LineChange[];
  /** He has to be seen to stretch forward and down. */
  stretch: boolean;
}

/** So many are remembered of a side of something short. */
const REMEMBERED = 8;
const MINUTE = 60_000;

/**
 * The hand at the write-up: what is remembered in the evening of a horse that answered perfectly. A series a side of what is short, one ask
 * of what is long or was done in another way, and what was seen of him.
 */
export class Memory {
  readonly events: RecordEvent[] = [];
  at: number;
  asks = 0;
  readonly presses = 0;
  readonly watches = 0;
  readonly watchPresses = 0;

  constructor(
    startedAt: string,
    private readonly id: string,
  ) {
    this.at = Date.parse(startedAt);
  }

  work(step: Step, { changes, stretch }: Wanted): void {
    for (const side of sidesOf(step)) {
      const { rungs, standard } = step.ladder;
      const line = beginLine(step, rungs[standard]?.id);
      const whole = changes.filter((change) => "tool" in change).reduce(changeLine, line);
      this.remember(step, side, whole);
      for (const change of changes) if (!("tool" in change)) this.ask(step, side, changeLine(whole, change));
      if (step.still) this.keep({ type: "sign", sign: "long-breath" });
      if (stretch) this.keep(bodyOfPress({ press: "frame", frame: "stretches" }, { step: step.id, side }, this.at));
    }
  }

  private remember(step: Step, side: SideKey, more: AskDetails): void {
    if (step.kind !== "moment" || (step.standard.dose && timeUnit(step) === "minutes"))
      return this.ask(step, side, more);
    const count = { count: REMEMBERED, clean: REMEMBERED, first: "gave", worst: "gave" } as const;
    this.asks += REMEMBERED;
    this.keep(bodyOfPress({ press: "series", ...count, ...feelOf(step) }, { step: step.id, side, more }, this.at));
  }

  private ask(step: Step, side: SideKey, more: AskDetails): void {
    const { dose } = step.standard;
    this.asks += 1;
    this.keep(
      bodyOfPress(
        {
          press: "ask",
          answer: "gave",
          ...feelOf(step),
          ...(dose && dose.unit !== "rung" ? { dose: dose.amount } : {}),
        },
        { step: step.id, side, more },
        this.at,
      ),
    );
  }

  private keep(body: EventBody): void {
    this.at += MINUTE;
    const v = versionOf(body);
    this.events.push({
      id: `${this.id}-${this.events.length + 1}`,
      at: new Date(this.at).toISOString(),
      ...(v > 1 ? { v } : {}),
      ...body,
    } as RecordEvent);
  }
}

const feelOf = ({ standard: { phase, mood } }: Step): { phase?: 0 | 1 | 2 | 3 | 4; mood: 0 | 1 } => ({
  ...(phase === null ? {} : { phase }),
  mood: Math.min(1, mood) as 0 | 1,
});
