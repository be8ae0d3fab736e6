/**
 * Measures as people type them, into SI and back. What was typed is kept beside the number, so that 15.2 stays 15.2 hands
 * and never becomes 157.5 cm on the page of the person who wrote it.
 */

export type Quantity = "mass" | "length" | "height" | "distance" | "temperature";
export type UnitSystem = "metric" | "imperial";

interface Unit {
  /** As it is written; the first is how it is shown. */
  names: readonly string[];
  /** SI units of the record (kg, cm, m, °C) in one of these; with `offset` added for temperatures. */
  factor: number;
  offset?: number;
  /** Decimals that make sense when a number is shown. */
  decimals: number;
}

/** International yard and pound agreement of 1959: 1 in = 2.54 cm, 1 lb = 0.45359237 kg, 1 ft = 0.3048 m exactly. */
const UNITS: Record<Quantity, Record<UnitSystem, Unit>> = {
  mass: {
    metric: { names: ["kg"], factor: 1, decimals: 0 },
    imperial: { names: ["lb", "lbs"], factor: 0.45359237, decimals: 0 },
  },
  length: {
    metric: { names: ["cm"], factor: 1, decimals: 0 },
    imperial: { names: ["in", "inches", '"'], factor: 2.54, decimals: 1 },
  },
  // Heights have hands in both systems; see `parseMeasure`.
  height: {
    metric: { names: ["cm"], factor: 1, decimals: 0 },
    imperial: { names: ["in", "inches", '"'], factor: 2.54, decimals: 1 },
  },
  distance: {
    metric: { names: ["m"], factor: 1, decimals: 1 },
    imperial: { names: ["ft", "feet", "'"], factor: 0.3048, decimals: 0 },
  },
  temperature: {
    metric: { names: ["°C", "C", "c"], factor: 1, decimals: 0 },
    imperial: { names: ["°F", "F", "f"], factor: 5 / 9, offset: -160 / 9, decimals: 0 },
  },
};

const CM_A_HAND = 10.16;
const CM_AN_INCH = 2.54;
const HANDS = ["hands", "hand", "hh", "h"];

export interface Measure {
  /** In kg, cm, m or °C. */
  si: number;
  /** As it was typed, with its unit. */
  typed: string;
}

/**
 * Reads a measure as typed: "412", "412 kg", "15.2", "15.2 hands", "62 in". Without a unit it is one of the yard's system;
 * a bare height below 25 is in hands in either system.
 *
 * @returns null where it is no such measure: 15.4 hands do not exist, a hand has four inches (0 to 3)
 */
export function parseMeasure(text: string, quantity: Quantity, system: UnitSystem): Measure | null {
  const found = /^(-?\d{1,6}(?:[.,]\d{1,4})?)\s*([^\d\s.,-][^\d]{0,8})?$/.exec(text.trim());
  if (!found) return null;
  const digits = (found[1] ?? "").replace(",", ".");
  const name = (found[2] ?? "").trim();
  const value = Number(digits);
  if (quantity === "height" && (HANDS.includes(name.toLowerCase()) || (name === "" && value < 25))) {
    const cm = handsToCm(digits);
    return cm === null ? null : { si: cm, typed: `${digits} hands` };
  }
  const own = UNITS[quantity][system];
  const unit = name === "" ? own : Object.values(UNITS[quantity]).find((one) => one.names.includes(name));
  if (!unit) return null;
  return { si: round(value * unit.factor + (unit.offset ?? 0)), typed: `${digits} ${unit.names[0]}` };
}

/** Ten-thousandths: what was typed in inches or pounds comes back exactly. */
const round = (value: number): number => Math.round(value * 1e4) / 1e4;

/**
 * A height in hands as the trade writes it: 15.2 is 15 hands and 2 inches, 157.48 cm.
 *
 * @returns null for what does not exist: .4 and more, or a negative one
 */
export function handsToCm(text: string): number | null {
  const found = /^(\d{1,2})(?:\.([0-3])(\.5)?)?$/.exec(text);
  if (!found) return null;
  const inches = Number(found[2] ?? 0) + (found[3] ? 0.5 : 0);
  return round(Number(found[1]) * CM_A_HAND + inches * CM_AN_INCH);
}

/** A height in hands, to the nearest inch: 157.48 → "15.2". */
export function cmToHands(cm: number): string {
  const inches = Math.round(cm / CM_AN_INCH);
  return `${Math.floor(inches / 4)}.${inches % 4}`;
}

/** A measure in words of the yard's units; heights in hands. */
export function measureInWords(si: number, quantity: Quantity, system: UnitSystem): string {
  if (quantity === "height") return `${cmToHands(si)} hands`;
  const unit = UNITS[quantity][system];
  const value = (si - (unit.offset ?? 0)) / unit.factor;
  return `${Number(value.toFixed(unit.decimals))} ${unit.names[0]}`;
}

/** The unit a bare number is read in: "kg", "in", "hands". */
export function unitName(quantity: Quantity, system: UnitSystem): string {
  return quantity === "height" ? "hands" : (UNITS[quantity][system].names[0] ?? "");
}
