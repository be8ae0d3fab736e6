import jStat from "jstat";
import { describe, expect, it } from "vitest";
import { isSureEnough, sureOf } from "./sureness";

/**
 * P(X ≥ x) for X ~ Beta(a, b) with whole a, b equals a binomial tail: Abramowitz & Stegun, Handbook of Mathematical
 * Functions (1964), 26.5.24; NIST Digital Library of Mathematical Functions, §8.17(i), eq. 8.17.5.
 */
function binomialTail(a: number, b: number, x: number): number {
  const n = a + b - 1;
  let tail = 0;
  let term = (1 - x) ** n;
  for (let j = 0; j <= n; j += 1) {
    if (j >= a) tail += term;
    term *= ((n - j) / (j + 1)) * (x / (1 - x));
  }
  return 1 - tail;
}

describe("tail probabilities of the beta distribution", () => {
  it("are 1 − xᵃ where nothing was missed (closed form, DLMF 8.17.1 with b = 1)", () => {
    for (let clean = 0; clean <= 40; clean += 1)
      for (const share of [0.5, 0.75, 0.9]) expect(sureOf(clean, 0, share)).toBeCloseTo(1 - share ** (clean + 1), 12);
  });

  it("equal binomial tails for whole counts (DLMF 8.17.5)", () => {
    for (let clean = 0; clean <= 20; clean += 1)
      for (let not = 0; not <= 8; not += 1)
        expect(sureOf(clean, not, 0.75)).toBeCloseTo(binomialTail(1 + clean, 1 + not, 0.75), 11);
  });

  it("agree with a second statistics library (jstat) for broken weights", () => {
    for (let clean = 0.3; clean < 15; clean += 0.7)
      for (let not = 0.05; not < 6; not += 0.45)
        expect(sureOf(clean, not, 0.75)).toBeCloseTo(1 - jStat.beta.cdf(0.75, 1 + clean, 1 + not), 6);
  });

  /**
   * Upper critical values of the F distribution, NIST/SEMATECH e-Handbook of Statistical Methods, section 1.3.6.7.3: rows of the tables
   * for 10 %, 5 % and 1 %, with three decimals. P(F > x) with m and n degrees of freedom is 1 − I_y(m/2, n/2) at y = mx / (mx + n):
   * Abramowitz & Stegun 26.6.2.
   */
  it.each([
    [
      0.1,
      [
        [2, 2, 9],
        [4, 4, 4.107],
        [6, 6, 3.055],
        [10, 10, 2.323],
        [10, 20, 1.937],
        [20, 10, 2.201],
        [20, 20, 1.794],
      ],
    ],
    [
      0.05,
      [
        [2, 2, 19],
        [2, 10, 4.103],
        [4, 4, 6.388],
        [4, 10, 3.478],
        [6, 6, 4.284],
        [6, 12, 2.996],
        [8, 8, 3.438],
        [10, 10, 2.978],
        [10, 20, 2.348],
        [20, 10, 2.774],
        [20, 20, 2.124],
      ],
    ],
    [
      0.01,
      [
        [2, 2, 99],
        [4, 4, 15.977],
        [6, 6, 8.466],
        [10, 10, 4.849],
        [20, 20, 2.938],
      ],
    ],
  ] as const)("match the published table of the F distribution at %d", (level, rows) => {
    for (const [m, n, x] of rows) {
      const share = (m * x) / (m * x + n);
      expect(sureOf(m / 2 - 1, n / 2 - 1, share)).toBeCloseTo(level, 3);
    }
  });

  it("are symmetric", () => {
    // Symmetry I_x(a, b) = 1 − I_{1−x}(b, a): DLMF 8.17.4.
    expect(sureOf(2, 4, 0.75)).toBeCloseTo(1 - sureOf(4, 2, 0.25), 12);
    expect(sureOf(3, 3, 0.5)).toBeCloseTo(0.5, 12);
  });
});

describe("the thresholds of the judge", () => {
  // Arithmetic of 1 − 0.75ⁿ; that 0.80 and 0.90 are asked is Still Pine's own judgement: common practice, no published source.
  it.each([
    [5, 0, 0.822, true],
    [4, 0, 0.763, false],
  ])("%d clean and %d missed give %d", (clean, not, value, enough) => {
    expect(sureOf(clean, not, 0.75)).toBeCloseTo(value, 3);
    expect(sureOf(clean, not, 0.75) >= 0.8).toBe(enough);
  });

  it("eight clean are just enough where 0.90 is asked, seven just not", () => {
    expect(sureOf(8, 0, 0.75)).toBeCloseTo(0.925, 3);
    expect(sureOf(7, 0, 0.75)).toBeCloseTo(0.89989, 5);
    expect(sureOf(7, 0, 0.75)).toBeLessThan(0.9);
  });

  it("an established horse may miss one, not two", () => {
    const established = 1 / (1 - 0.8 ** (1 / 3));
    expect(established).toBeCloseTo(13.95, 2);
    expect(sureOf(established - 1, 1, 0.75)).toBeCloseTo(0.92, 2);
    expect(sureOf(established - 2, 2, 0.75)).toBeCloseTo(0.76, 2);
  });
});

describe("whether it is sure enough, without working it out", () => {
  it.each([
    [0.75, 0.8],
    [0.75, 0.9],
    [0.3, 0.2],
    [0.9, 0.95],
  ])("is what the worked out value says, for a share of %d and %d sure", (share, sure) => {
    const wrong: [number, number][] = [];
    let enough = 0;
    for (let clean = 0; clean < 60; clean += 0.37)
      for (let not = 0; not < 9; not += 0.11) {
        const exact = sureOf(clean, not, share) >= sure;
        if (exact) enough += 1;
        if (isSureEnough(clean, not, share, sure) !== exact) wrong.push([clean, not]);
      }
    expect(wrong).toEqual([]);
    expect(enough).toBeGreaterThan(100);
  });
});
