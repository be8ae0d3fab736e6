import { describe, expect, it } from "vitest";
import { cmToHands, handsToCm, measureInWords, parseMeasure } from "./units";
import { weightFromTape } from "./weight";

describe("hands", () => {
  // A hand is four inches of 2.54 cm (international inch, 1959): common practice of the trade, arithmetic from the definition.
  it.each([
    ["14.2", 147.32], // the dividing line between pony and horse in many rule books
    ["15.2", 157.48],
    ["16", 162.56],
    ["13.3", 139.7],
  ])("%s are %d cm, and come back", (hands, cm) => {
    expect(handsToCm(hands)).toBe(cm);
    expect(cmToHands(cm)).toBe(hands.includes(".") ? hands : `${hands}.0`);
  });

  it.each(["15.4", "15.9", "-1", "x", "15.22"])("%s do not exist", (hands) => expect(handsToCm(hands)).toBeNull());
});

describe("what a person types", () => {
  it.each([
    // International yard and pound agreement, 1959: 1 lb = 0.45359237 kg, 1 ft = 0.3048 m.
    ["1000 lb", "mass", "metric", 453.5924, "1000 lb"],
    ["900", "mass", "imperial", 408.2331, "900 lb"],
    ["412", "mass", "metric", 412, "412 kg"],
    ["15.2", "height", "metric", 157.48, "15.2 hands"],
    ["157", "height", "metric", 157, "157 cm"],
    ["62 in", "height", "imperial", 157.48, "62 in"],
    ["50 ft", "distance", "metric", 15.24, "50 ft"],
    // Celsius and Fahrenheit scales: 32 °F is the ice point.
    ["32 F", "temperature", "metric", 0, "32 °F"],
    ["-5", "temperature", "metric", -5, "-5 °C"],
  ] as const)("%s (%s, %s) is %d, kept as %s", (text, quantity, system, si, typed) => {
    expect(parseMeasure(text, quantity, system)).toEqual({ si, typed });
  });

  it.each([
    ["15.4", "height"],
    ["12 stone", "mass"],
    ["", "mass"],
    ["1e9", "mass"],
    ["--3", "temperature"],
  ] as const)("%j is no %s", (text, quantity) => expect(parseMeasure(text, quantity, "metric")).toBeNull());

  it("is shown in the yard's units where nothing was typed", () => {
    expect(measureInWords(453.59237, "mass", "imperial")).toBe("1000 lb");
    expect(measureInWords(157.48, "height", "metric")).toBe("15.2 hands");
    expect(measureInWords(0, "temperature", "imperial")).toBe("32 °F");
  });
});

describe("weight from a tape", () => {
  // Carroll & Huntington 1988, Equine Vet J 20:41–45: weight = girth² × length / 11 877 (cm). By the formula itself:
  // 180² × 160 / 11877 = 436.47.
  it("follows the published formula for adults", () => expect(weightFromTape(180, 160)).toBeCloseTo(436.47, 2));

  // Bulletins of extension services give it in pounds and inches, rounded: girth² × length ÷ 330 for adults (from memory).
  it("agrees within a hundredth with the rule in pounds and inches", () => {
    for (let girth = 140; girth <= 220; girth += 10)
      for (let length = 130; length <= 190; length += 10) {
        const pounds = ((girth / 2.54) ** 2 * (length / 2.54)) / 330;
        expect(weightFromTape(girth, length) / (pounds * 0.45359237)).toBeCloseTo(1, 2);
      }
  });
});
