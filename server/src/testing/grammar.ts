import { openApi } from "@still-pine/contract/http";

/** Bodies and parameters by the grammar the server publishes: right ones, and ones that are wrong in a place or two. */

type Random = () => number;

interface Schema {
  const?: unknown;
  enum?: unknown[];
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  type?: string;
  format?: string;
  pattern?: string;
  minLength?: number;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  items?: Schema;
  minItems?: number;
  maxItems?: number;
  properties?: Record<string, Schema>;
  required?: string[];
  additionalProperties?: boolean | Schema;
}

interface Operation {
  parameters?: { name: string; in: "path" | "query" | "header"; schema: Schema }[];
  requestBody?: { content: Record<string, { schema?: Schema }> };
}

const PATHS = (openApi() as { paths: Record<string, Record<string, Operation>> }).paths;

const DEEP = 8;
/** A share of optional fields that are given. */
const GIVEN = 0.35;
const LONG_MOST = 300;

/** Texts that some pattern or other wants. */
const TEXTS = [
  "2026-06-01T10:00:00Z",
  "2026-06-01",
  "Europe/Dublin",
  "own-ours",
  "AAAA-BBBB",
  "BCDF-GHJK",
  "flex",
  "near",
  "x",
  "1",
  "Moss",
  "a1b2c3",
];

export class Grammar {
  private spoils = 0;

  /**
   * @param known values a field of this name can have that mean something in the yard
   * @param odd something that is no sensible value of anything
   */
  constructor(
    private readonly random: Random,
    private readonly known: Readonly<Record<string, readonly string[]>>,
    private readonly odd: () => unknown,
  ) {}

  /** A body for a route; undefined where it takes none that has a grammar. @param spoils so many places are wrong at most */
  body(method: string, path: string, spoils: number): unknown {
    const schema = PATHS[`/api${path}`]?.[method]?.requestBody?.content["application/json"]?.schema;
    this.spoils = spoils;
    return schema && this.value(schema, "", 0);
  }

  /** A parameter of a route, as text. */
  parameter(method: string, path: string, name: string): string {
    const found = PATHS[`/api${path}`]?.[method]?.parameters?.find((one) => one.name === name);
    this.spoils = 0;
    return String(found ? this.value(found.schema, name, 0) : this.pick(this.known[name] ?? TEXTS));
  }

  private pick<Item>(items: readonly Item[]): Item {
    return items[Math.floor(this.random() * items.length)] as Item;
  }

  private value(schema: Schema, name: string, depth: number): unknown {
    if (this.spoils > 0 && this.random() < 0.08) {
      this.spoils -= 1;
      return this.odd();
    }
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return this.pick(schema.enum);
    const choice = schema.anyOf ?? schema.oneOf;
    if (choice) return this.value(this.pick(choice), name, depth);
    if (schema.allOf)
      return schema.allOf
        .map((part) => this.value(part, name, depth))
        .reduce((all, part) => (typeof part === "object" ? { ...(all as object), ...part } : part), {});
    switch (schema.type) {
      case "string":
        return this.text(schema, name);
      case "integer":
      case "number":
        return this.number(schema);
      case "boolean":
        return this.random() < 0.5;
      case "null":
        return null;
      case "array": {
        const least = schema.minItems ?? 0;
        const count = Math.min(schema.maxItems ?? Infinity, least + Math.floor(this.random() * 3));
        return depth > DEEP ? [] : Array.from({ length: count }, () => this.value(schema.items ?? {}, name, depth + 1));
      }
      case "object":
        return this.object(schema, depth);
      default:
        return this.odd();
    }
  }

  private object({ properties = {}, required = [], additionalProperties }: Schema, depth: number): object {
    const made: Record<string, unknown> = {};
    for (const [name, schema] of Object.entries(properties))
      if (required.includes(name) || (depth <= DEEP && this.random() < GIVEN))
        made[name] = this.value(schema, name, depth + 1);
    if (typeof additionalProperties === "object" && this.random() < 0.3)
      made[this.pick(TEXTS)] = this.value(additionalProperties, "", depth + 1);
    if (this.spoils > 0 && this.random() < 0.1) {
      this.spoils -= 1;
      const names = Object.keys(made);
      if (names.length > 0) delete made[this.pick(names)];
    }
    return made;
  }

  /** At a border as often as between. */
  private number({ type, minimum = -1000, maximum = 1000 }: Schema): number {
    const low = Math.max(minimum, -1e6);
    const high = Math.min(maximum, 1e6);
    const one = this.pick([low, high, low + (high - low) * this.random()]);
    return type === "integer" ? Math.floor(one) : one;
  }

  private text({ format, pattern, minLength = 0, maxLength = LONG_MOST }: Schema, name: string): string {
    const known = this.known[name];
    if (known && this.random() < 0.8) return this.pick(known);
    if (format === "date-time") return "2026-06-01T10:00:00Z";
    if (format === "date") return "2026-06-01";
    if (pattern) {
      const fitting = [...TEXTS, ...Object.values(this.known).flat()].filter((one) =>
        new RegExp(pattern, "u").test(one),
      );
      return this.pick(fitting.length > 0 ? fitting : TEXTS);
    }
    const border = "\u00e9".repeat(Math.min(maxLength, LONG_MOST));
    return this.pick([...TEXTS, border, "x".repeat(Math.max(1, minLength))]);
  }
}
