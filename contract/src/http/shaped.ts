import type { z } from "zod";

/** A type as a schema describes it: what a loose schema lets through besides is left out of the comparison. */
type Described<Value> = Value extends readonly [infer First, ...infer Rest]
  ? readonly [Described<First>, ...DescribedEach<Rest>]
  : Value extends readonly (infer Item)[]
    ? readonly Described<Item>[]
    : Value extends object
      ? { readonly [Key in keyof Value as string extends Key ? never : Key]: Described<Value[Key]> }
      : Value;
type DescribedEach<Items> = { readonly [At in keyof Items]: Described<Items[At]> };

/**
 * A schema of a value that is made in core and has its type there. The schema describes it for whoever reads it; the compiler holds
 * the type to the schema. The only cast of its kind.
 */
export const shapedAs =
  <Value>() =>
  <Schema extends z.ZodType>(
    schema: Value extends Described<z.output<Schema>> ? Schema : ["the type is not as the schema describes it", never],
  ): z.ZodType<Value> =>
    schema as unknown as z.ZodType<Value>;
