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

/** How many missed lie between two points of a border; it is exact at the points, and between them only the doubtful is worked out. */
const GRID = 0.125;

/**
 * Whether `sureOf(clean, not, share)` is at least `sure`, mostly without working it out: it rises with what was clean and falls with what
 * was missed, so each point of the border decides for all on one side of it.
 */
export function isSureEnough(clean: number, not: number, share: number, sure: number): boolean {
  const border = borderOf(share, sure);
  const step = Math.floor(not / GRID);
  if (clean < border.at(step).needs) return false;
  if (clean >= border.at(step + 1).does) return true;
  return sureOf(clean, not, share) >= sure;
}

/** The border between sure enough and not: for so many missed, how many clean it needs at least, and how many surely do. */
class Border {
  private readonly points: { needs: number; does: number }[] = [];

  constructor(
    private readonly share: number,
    private readonly sure: number,
  ) {}

  at(step: number): { needs: number; does: number } {
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
