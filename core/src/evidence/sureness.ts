import betaCdf from "@stdlib/stats-base-dists-beta-cdf";

/**
 * How sure the record makes us that at least `share` of a side's asks come clean: P(X ≥ share) where
 * X ~ Beta(1 + clean, 1 + not), an even start before the first ask.
 *
 * @param clean summed weight of clean asks, ≥ 0
 * @param not summed weight of misses, ≥ 0
 * @param share between 0 and 1
 * @returns a probability. `sureOf(5, 0, 0.75)` is 1 − 0.75⁶ = 0.822…
 */
export function sureOf(clean: number, not: number, share: number): number {
  return 1 - betaCdf(share, 1 + clean, 1 + not);
}

/** How many missed lie between two points of a border. */
const GRID = 0.125;
/** From so many questions on between two points, it pays to find them. */
const PAYS_FROM = 24;

/**
 * Whether `sureOf(clean, not, share)` is at least `sure`, mostly without working it out: it rises with what was clean and falls with what
 * was missed, so each point of the border decides for all on one side of it.
 */
export function isSureEnough(clean: number, not: number, share: number, sure: number): boolean {
  // The median of Beta(1 + c, 1 + n) lies at or under c / (c + n) where that is over a half.
  if (share >= 0.5 && sure >= 0.5 && clean <= share * (clean + not)) return false;
  return borderOf(share, sure).decide(clean, not) ?? sureOf(clean, not, share) >= sure;
}

/** The border between sure enough and not: for so many missed, how many clean it needs at least, and how many surely do. */
class Border {
  private readonly points: { needs: number; does: number }[] = [];
  private readonly asked: number[] = [];

  constructor(
    private readonly share: number,
    private readonly sure: number,
  ) {}

  /** Null near the border, and where it was seldom asked: there it has to be worked out. */
  decide(clean: number, not: number): boolean | null {
    const step = Math.floor(not / GRID);
    const asked = (this.asked[step] ?? 0) + 1;
    this.asked[step] = asked;
    if (asked < PAYS_FROM) return null;
    if (clean < this.at(step).needs) return false;
    return clean >= this.at(step + 1).does ? true : null;
  }

  private at(step: number): { needs: number; does: number } {
    return (this.points[step] ??= this.find(step * GRID));
  }

  private find(not: number): { needs: number; does: number } {
    let needs = 0;
    let does = 1;
    while (sureOf(does, not, this.share) < this.sure) [needs, does] = [does, does * 2];
    while (does - needs > 0.02) {
      const middle = (needs + does) / 2;
      if (sureOf(middle, not, this.share) < this.sure) needs = middle;
      else does = middle;
    }
    return { needs, does };
  }
}

const borders = new Map<number, Map<number, Border>>();

function borderOf(share: number, sure: number): Border {
  let ofShare = borders.get(share);
  if (!ofShare) borders.set(share, (ofShare = new Map()));
  let border = ofShare.get(sure);
  if (!border) ofShare.set(sure, (border = new Border(share, sure)));
  return border;
}
