import { daysBetween, type Answer, type Day, type Mood, type Phase } from "../record";
import type { SideKey, Standard, Step } from "../programs";
import type { Random } from "../random";

/** What a simulated horse is like. All shares and chances on [0, 1]. */
export interface Nature {
  /** How likely an ask comes right when work on it begins: by "step side" or by step; else `start`, less on the off side. */
  known: Readonly<Record<string, number>>;
  start: number;
  /** What one right answer teaches, as a share of what is still missing. */
  learns: number;
  /** How much less the off side has of everything. */
  offBehind: number;
  /** A level at which he stays for so many asks before he goes on. */
  plateau: { level: number; asks: number } | null;
  /** Some outings something frightens him: he loses a share of all he has and is tight that day. */
  setback: { chance: number; drop: number } | null;
  /** From some outing on he learns nothing more and loses with each outing a share of all he has. */
  fades: { after: number; drop: number } | null;
  /** What he loses of a thing in thirty days without it. */
  breakLoss: number;
  /** How much less is there at the first ask of a day. */
  coldLoss: number;
  /** How likely an answer comes tight on an ordinary day, and how far his mood swings from day to day. */
  worry: number;
  swing: number;
  /** Steps, or "step side", that he mostly answers with one phase and mood, whatever he knows. */
  habits: Readonly<Record<string, { phase?: Phase; mood: Mood; share: number }>>;
}

export interface SimulatedAnswer {
  answer: Answer;
  phase?: Phase;
  mood: Mood;
}

interface Skill {
  level: number;
  /** Asks spent on the plateau. */
  waited: number;
  last: Day | null;
}

/** From one day's mood to the next. */
const MOOD_STAYS = 0.6;

/**
 * A horse that learns by right answers, stays on plateaus, has setbacks and moods that come and go, and forgets over breaks; each
 * side apart. It knows nothing of the judge's arithmetic: its chances move all the time, and answers of one day hang together.
 */
export class SimulatedHorse {
  private readonly skills = new Map<string, Skill>();
  private readonly askedToday = new Set<string>();
  private today: Day = "0000-01-01";
  private mood = 0;
  private isShaken = false;
  private outings = 0;

  constructor(
    private nature: Nature,
    private readonly random: Random,
  ) {}

  /** He takes to other ways: from now on these are his habits. */
  takeUp(habits: Nature["habits"]): void {
    this.nature = { ...this.nature, habits };
  }

  /** A new outing: the mood of the day, and perhaps a setback. */
  goOut(day: Day): void {
    const { swing, setback } = this.nature;
    this.today = day;
    this.askedToday.clear();
    this.mood = MOOD_STAYS * this.mood + (this.random() * 2 - 1) * swing;
    this.isShaken = setback !== null && this.random() < setback.chance;
    if (this.isShaken && setback) this.loseAll(setback.drop);
    this.outings += 1;
    if (this.isFading && this.nature.fades) this.loseAll(this.nature.fades.drop);
  }

  private get isFading(): boolean {
    return this.nature.fades !== null && this.outings > this.nature.fades.after;
  }

  private loseAll(share: number): void {
    for (const skill of this.skills.values()) skill.level *= 1 - share;
  }

  ask(step: Step, side: SideKey): SimulatedAnswer {
    const key = `${step.id} ${side}`;
    const skill = this.skillOf(step, side);
    const isFirst = !this.askedToday.has(key);
    this.askedToday.add(key);
    const habit = this.nature.habits[key] ?? this.nature.habits[step.id];
    if (habit && this.random() < habit.share)
      return { answer: "gave", ...(step.standard.phase === null ? {} : { phase: habit.phase ?? 1 }), mood: habit.mood };
    const level = skill.level - (isFirst ? this.nature.coldLoss * this.random() : 0);
    const answer = this.answerFrom(level, step.standard);
    if (answer.answer === "gave") this.teach(skill, side);
    return answer;
  }

  /** The true chance that an ask of this side is clean now, on an ordinary day: what a judge tries to see. */
  trueShare(step: Step, side: SideKey): number {
    const { level } = this.skillOf(step, side);
    const light = step.standard.phase === null ? 1 : lightShare(level);
    return level * light * quietShare(level, this.nature.worry);
  }

  private skillOf(step: Step, side: SideKey): Skill {
    const key = `${step.id} ${side}`;
    const { known, start, offBehind, breakLoss } = this.nature;
    let skill = this.skills.get(key);
    if (!skill) {
      const level = known[key] ?? known[step.id] ?? start * (side.startsWith("off") ? 1 - offBehind : 1);
      this.skills.set(key, (skill = { level, waited: 0, last: null }));
    }
    if (skill.last !== null && skill.last < this.today)
      skill.level *= (1 - breakLoss) ** (daysBetween(skill.last, this.today) / 30);
    skill.last = this.today;
    return skill;
  }

  private teach(skill: Skill, side: SideKey): void {
    if (this.isFading) return;
    const { plateau, learns, offBehind } = this.nature;
    if (plateau && skill.level >= plateau.level && skill.waited < plateau.asks) skill.waited += 1;
    else skill.level += (1 - skill.level) * learns * (side.startsWith("off") ? 1 - offBehind : 1);
  }

  private answerFrom(level: number, { phase: standard }: Standard): SimulatedAnswer {
    const luck = this.random();
    const right = level * (this.isShaken ? 0.6 : 1);
    if (luck < right) {
      const isLight = this.random() < lightShare(level);
      const phase = isLight ? (standard === 0 || this.random() < 0.25 ? 0 : 1) : 2;
      return { answer: "gave", ...(standard === null ? {} : { phase: phase as Phase }), mood: this.moodOf(level) };
    }
    const rest = (luck - right) / (1 - right);
    const phase = standard === null ? {} : { phase: (this.random() < 0.5 ? 1 : 2) as Phase };
    if (rest < 0.5) return { answer: "tried", ...phase, mood: this.moodOf(level) };
    if (rest < 0.8) return { answer: "none", ...phase, mood: 2 };
    return { answer: "against", ...phase, mood: this.random() < 0.3 + this.nature.worry ? 3 : 2 };
  }

  private moodOf(level: number): Mood {
    const worry = Math.min(1, Math.max(0, this.nature.worry + this.mood)) + (this.isShaken ? 0.3 : 0);
    if (this.random() < worry) return 3;
    if (this.random() < watchfulShare(level)) return 2;
    return this.random() < 0.35 ? 0 : 1;
  }
}

/** Of right answers, how many come as light as the standard, and how many are only watchful. */
const lightShare = (level: number): number => 0.6 + 0.4 * level;
const watchfulShare = (level: number): number => 0.3 * (1 - level);
const quietShare = (level: number, worry: number): number => (1 - worry) * (1 - watchfulShare(level));
