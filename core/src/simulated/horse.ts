import type { Answer, Mood, Phase, Side } from "../record";
import type { Step } from "../programs";
import type { Random } from "./random";

/** What a simulated horse is like. All shares on [0, 1]. */
export interface Nature {
  /** How well a side is known when work begins: by "step side" or by step; else `start`, less on the off side. */
  known: Record<string, number>;
  start: number;
  /** What one good ask teaches, as a share of what is still missing. */
  learns: number;
  /** How much less the off side has of everything. */
  offBehind: number;
  /** How much of a night's rest is lost again by the next first ask. */
  coldLoss: number;
  /** How likely a right answer comes tight. */
  worry: number;
}

export interface SimulatedAnswer {
  answer: Answer;
  phase?: Phase;
  mood: Mood;
}

/**
 * A horse that learns by plateaus: each good answer teaches a little, the off side apart from the near one, and the first ask
 * of a day finds less than the last one left. It knows nothing of the judge's arithmetic.
 */
export class SimulatedHorse {
  private readonly skill = new Map<string, number>();

  constructor(
    private readonly nature: Nature,
    private readonly random: Random,
  ) {}

  ask(step: Step, side: Side, isFirstToday: boolean): SimulatedAnswer {
    const key = `${step.id} ${side}`;
    const { known, start, offBehind } = this.nature;
    const begins = known[key] ?? known[step.id] ?? start * (side === "off" ? 1 - offBehind : 1);
    const skill = this.skill.get(key) ?? begins;
    const today = skill - (isFirstToday ? this.nature.coldLoss * this.random() : 0);
    const learns = this.nature.learns * (side === "off" ? 1 - offBehind : 1);
    this.skill.set(key, skill + (1 - skill) * learns);
    return this.answerFrom(today, step);
  }

  private answerFrom(skill: number, step: Step): SimulatedAnswer {
    const luck = this.random();
    const hasPhase = step.standard.phase !== null;
    if (luck < skill) {
      const lighter = this.random() < skill + (1 - skill) / 2 ? 1 : 2;
      const phase = hasPhase ? { phase: (skill > 0.9 && this.random() < 0.4 ? 0 : lighter) as Phase } : {};
      return { answer: "gave", ...phase, mood: this.mood(skill) };
    }
    const phase = hasPhase ? { phase: (this.random() < 0.5 ? 1 : 2) as Phase } : {};
    if (luck < skill + (1 - skill) * 0.5) return { answer: "tried", ...phase, mood: this.mood(skill) };
    if (luck < skill + (1 - skill) * 0.75) return { answer: "none", ...phase, mood: 2 };
    return { answer: "against", ...phase, mood: this.random() < 0.4 ? 3 : 2 };
  }

  private mood(skill: number): Mood {
    if (this.random() < this.nature.worry) return 3;
    if (this.random() > skill + (1 - skill) / 2) return 2;
    return this.random() < 0.3 ? 0 : 1;
  }
}
