import { expect, test, type Page } from "./test";
import { addHorse, entriesOnServer, goIn, openCard, untilAnotherPress } from "./pages";

/** Three whole outings by a thumb on a phone held upright: what it takes in presses, and that every ask says how it was put. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

/** Beside one press an ask so many at most, over an outing; watches, signs, frights, faults, gaits, sides and exercises apart. */
const PRESSES_AN_ASK = 1.4;

/** A thumb in the pen that does as the coach says, and counts. */
class Thumb {
  asks = 0;
  presses = 0;
  watches = 0;
  ofWatches = 0;

  constructor(private readonly page: Page) {}

  /** One ask by its cell of the pad or its key. */
  async ask(answer: string, times = 1): Promise<void> {
    for (let n = 0; n < times; n += 1) {
      await this.page
        .getByRole("button", { name: new RegExp(`^${answer}(;|$)`) })
        .first()
        .tap();
      this.asks += 1;
      this.presses += 1;
      await untilAnotherPress(this.page);
    }
  }

  /** Another answer than gave is one press more: the answer, and how he was. */
  async otherAnswer(answer: string, feel: string): Promise<void> {
    await this.say(new RegExp(`^${answer}$`));
    await this.ask(feel);
  }

  /** Three good ones, and up a rung, as the coach says. */
  async goodOnes(answer: string): Promise<void> {
    await this.ask(answer, 3);
    await expect(this.page.getByRole("status", { name: "The coach" })).toContainText("On to:");
    await this.say("Up a rung");
  }

  /** To the side that the coach says has had less. */
  async otherSide(name: string | RegExp): Promise<void> {
    await expect(this.page.getByRole("status", { name: "The coach" })).toContainText("has had less");
    await this.side(name);
  }

  /** Changes the line by one press of what stands in it. */
  async say(name: string | RegExp): Promise<void> {
    await this.apart(name);
    this.presses += 1;
  }

  /** He is worked behind a shut gate, and it is said why. */
  async sayWhy(gate: string): Promise<void> {
    const coach = this.page.getByRole("status", { name: "The coach" });
    await expect(coach).toContainText(`${gate} is shut, and this lies behind it.`);
    await coach.tap();
    await this.apart("He knows it from elsewhere; it is not on record.");
  }

  /** Any other press. */
  async apart(...names: (string | RegExp)[]): Promise<void> {
    for (const name of names) await this.page.getByRole("button", { name }).first().tap();
  }

  async side(name: string | RegExp): Promise<void> {
    await this.page.getByRole("group", { name: "Side" }).getByRole("button", { name }).tap();
  }

  async exercise(name: string | RegExp): Promise<void> {
    await this.page.getByRole("group", { name: "Exercises" }).getByRole("button", { name }).tap();
  }

  /** A watch from its start to the mood at its end; the time runs by the page's own clock. */
  async watch(time: string, feel: string): Promise<void> {
    await this.apart("Start the watch");
    await this.page.clock.fastForward(time);
    await expect(this.page.getByRole("group", { name: "The watch runs" })).toBeVisible();
    await this.apart(new RegExp(`^${feel}(;|$)`));
    await untilAnotherPress(this.page);
    this.watches += 1;
    this.ofWatches += 2;
  }

  async end(): Promise<void> {
    await this.apart("more", "End the outing");
    await expect(this.page.getByRole("listbox", { name: "Entries in time" })).toBeVisible();
  }

  /** How many presses an ask took, and that every ask the server has says its shape and its rung. */
  async check(horse: string, outing: string): Promise<Record<string, unknown>[]> {
    expect(this.presses / this.asks).toBeLessThanOrEqual(PRESSES_AN_ASK);
    expect(this.ofWatches).toBeLessThanOrEqual(3 * this.watches);
    const asks = async (): Promise<Record<string, unknown>[]> =>
      (await entriesOnServer(this.page, horse, outing)).filter(({ type }) => type === "ask");
    await expect.poll(async () => (await asks()).length).toBe(this.asks + this.watches);
    const all = await asks();
    expect(all.filter(({ v, rung, setting }) => v !== 2 || rung === undefined || setting === "unsaid")).toEqual([]);
    return all;
  }
}

/** Rungs that were asked of a step, each once, in the order they first were. */
const rungsOf = (asks: readonly Record<string, unknown>[], step: string): unknown[] => [
  ...new Set(asks.filter((one) => one["step"] === step).map((one) => one["rung"])),
];

test("the first days of an untouched one", async ({ page }) => {
  const horse = await addHorse(page, "Zelkova");
  await openCard(page, horse, ["share-space", "face-up", "first-touch", "catch-rope"]);
  const outing = await goIn(page);
  const thumb = new Thumb(page);
  await thumb.goodOnes("quiet");
  await thumb.goodOnes("quiet");
  await thumb.ask("watchful", 2);
  await thumb.say("Down a rung");
  await thumb.ask("quiet", 2);
  await thumb.apart("signs", "long breath");
  await thumb.exercise(/^Turns to face/);
  await thumb.ask("hint, watchful");
  await thumb.goodOnes("hint, quiet");
  await thumb.ask("ask, quiet", 2);
  await thumb.exercise(/^First touch/);
  await thumb.goodOnes("quiet");
  await thumb.ask("tight");
  await thumb.apart("fright", "a step", /^Quiet again/);
  await thumb.ask("quiet", 2);
  await thumb.side(/^Off/);
  await thumb.otherAnswer("none", "watchful");
  await thumb.goodOnes("quiet");
  await thumb.exercise(/^Catching rope/);
  await thumb.ask("quiet", 3);
  await thumb.end();
  const asks = await thumb.check(horse, outing);
  expect(rungsOf(asks, "share-space")).toEqual(["5m-10s", "3m-10s", "1m-10s"]);
  expect(rungsOf(asks, "first-touch")).toEqual(["reached-towards", "touched-and-left"]);
});

test("flag and saddle", async ({ page }) => {
  await page.clock.install();
  const horse = await addHorse(page, "Yucca");
  await openCard(page, horse, ["flag", "saddle", "saddle-alone"]);
  const outing = await goIn(page);
  const thumb = new Thumb(page);
  await thumb.goodOnes("quiet");
  await thumb.ask("quiet");
  await thumb.otherSide(/^Off/);
  await thumb.goodOnes("quiet");
  await thumb.goodOnes("quiet");
  await thumb.ask("quiet");
  await thumb.side(/^Near/);
  await thumb.say(/^Standing or moving\?/);
  await thumb.ask("quiet", 2);
  await thumb.ask("watchful");
  await thumb.otherAnswer("against", "watchful");
  await thumb.say("Down a rung");
  await thumb.ask("quiet", 2);
  await thumb.exercise(/^First saddle/);
  await thumb.sayWhy("First saddling");
  await thumb.goodOnes("quiet");
  await thumb.ask("quiet");
  await thumb.otherSide(/^Off/);
  await thumb.goodOnes("quiet");
  await thumb.ask("quiet", 3);
  await thumb.exercise(/^Wears the saddle/);
  await thumb.watch("06:00", "quiet");
  await thumb.end();
  const asks = await thumb.check(horse, outing);
  expect(rungsOf(asks, "flag")).toEqual(["rolled-touched", "rolled-stroked", "half"]);
  expect(asks.filter(({ step }) => step === "saddle-alone")).toMatchObject([{ rung: "5min", endedBy: "person" }]);
});

test("on the line with gaits and frames", async ({ page }) => {
  const horse = await addHorse(page, "Yarran");
  await openCard(page, horse, ["send", "circle-trot", "stretch"]);
  const outing = await goIn(page);
  const thumb = new Thumb(page);
  await thumb.ask("hint, quiet", 3);
  await thumb.apart(/^Left /);
  await thumb.ask("hint, quiet", 3);
  await thumb.exercise(/^Circle at trot/);
  await thumb.sayWhy("First halter");
  await thumb.apart("He goes in trot");
  await thumb.goodOnes("hint, quiet");
  await thumb.ask("hint, quiet");
  await thumb.apart("canter, not asked", /^Brought back/);
  await thumb.ask("hint, quiet", 2);
  await thumb.exercise(/^Long and low/);
  await thumb.apart("He goes in trot");
  await thumb.ask("hint, loose", 2);
  await thumb.apart("reaches down");
  await thumb.ask("hint, loose");
  await thumb.apart("hollow");
  await thumb.ask("ask, quiet");
  await thumb.end();
  const asks = await thumb.check(horse, outing);
  const going = (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "gait" || type === "frame");
  expect(going.map(({ gait, frame }) => gait ?? frame)).toEqual(["trot", "canter", "trot", "stretches", "hollow"]);
  // Where the step wants to know it, every ask says the gait.
  expect(asks.filter(({ step }) => step === "stretch").map(({ gait }) => gait)).toEqual(Array(4).fill("trot"));
});
