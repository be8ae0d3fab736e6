import { everythingUnder, refsOf, type Program } from "@still-pine/core/programs";

export interface MapNode {
  id: string;
  width: number;
  height: number;
}

/** A line of the map: what lies lower to what rests on it; loose where another way would serve too. */
export interface MapEdge {
  from: string;
  to: string;
  isLoose: boolean;
}

export const NODE_WIDTH = 172;
export const NODE_HEIGHT = 40;

/** The steps and what they rest on as a graph; what is already said by a longer way is left out. */
export function graphOf(program: Program): { nodes: MapNode[]; edges: MapEdge[] } {
  const nodes = program.steps.map(({ id }) => ({ id, width: NODE_WIDTH, height: NODE_HEIGHT }));
  const edges = program.steps.flatMap((step) => {
    const direct = [...new Set(refsOf(step.needs).map((ref) => ref.step))];
    const loose = new Set(refsOf(step.needs.filter((need) => need.anyOf.length > 1)).map((ref) => ref.step));
    return direct
      .filter((id) => !direct.some((other) => other !== id && everythingUnder(program, other).includes(id)))
      .map((from): MapEdge => ({ from, to: step.id, isLoose: loose.has(from) }));
  });
  return { nodes, edges };
}

/** What lights up when a step is chosen: all it rests on, and what rests on it directly. */
export function litBy(
  program: Program,
  chosen: string | null,
): { under: ReadonlySet<string>; above: ReadonlySet<string> } {
  if (chosen === null) return { under: new Set(), above: new Set() };
  return {
    under: new Set(everythingUnder(program, chosen)),
    above: new Set(
      program.steps.filter((step) => refsOf(step.needs).some((ref) => ref.step === chosen)).map(({ id }) => id),
    ),
  };
}

export interface Place {
  x: number;
  y: number;
}

const DIRECTIONS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as const;
export type ArrowKey = keyof typeof DIRECTIONS;
export const isArrow = (key: string): key is ArrowKey => key in DIRECTIONS;

/** What lies aside of the way counts this much more than what lies along it. */
const ASIDE = 3;

/** The step an arrow key goes to: the nearest in that direction. Null at the edge of the map. */
export function neighbour(places: ReadonlyMap<string, Place>, from: string, key: ArrowKey): string | null {
  const start = places.get(from);
  if (!start) return null;
  const [dx, dy] = DIRECTIONS[key];
  let best: string | null = null;
  let least = Infinity;
  for (const [id, { x, y }] of places) {
    const along = (x - start.x) * dx + (y - start.y) * dy;
    const aside = Math.abs((x - start.x) * dy + (y - start.y) * dx);
    if (along <= 1) continue;
    const far = along + ASIDE * aside;
    if (far < least) {
      least = far;
      best = id;
    }
  }
  return best;
}
