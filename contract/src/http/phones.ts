import { z } from "zod";
import { idSchema } from "../record/events";
import { nameSchema } from "./bodies";
import { count, text } from "./views";

/** Who is let in: codes, keys, phones, the laptop's pass phrase. What is sent, then what is answered. */

/** A pairing code as somebody typed it. */
const codeSchema = z.string().trim().min(4).max(40);

/** A device asks to be let in. */
export const pairBodySchema = z.object({
  code: codeSchema,
  name: nameSchema.describe("What the phone is called in the list."),
  recorder: idSchema.optional().describe("Sent by pages of a former build; the yard gives the name."),
});

/** What a new code lets somebody do: everything, or writing down one outing. */
export const codeBodySchema = z.discriminatedUnion("rights", [
  z.object({ rights: z.literal("all") }),
  z.object({ rights: z.literal("write"), outing: idSchema }),
]);

export const deviceFieldsSchema = z.object({
  name: nameSchema,
  isIn: z.boolean().describe("False shuts it out for good; it can be paired again."),
});
export type DeviceFields = z.infer<typeof deviceFieldsSchema>;

const PHRASE_LEAST = 8;
const phraseSchema = z
  .string()
  .min(PHRASE_LEAST, { error: `at least ${PHRASE_LEAST} characters` })
  .max(200);

/** A new pass phrase for the laptop, or none any more. */
export const passPhraseSchema = z.object({ phrase: phraseSchema.nullable(), current: z.string().max(200).optional() });

export const unlockSchema = z.object({ phrase: z.string().max(200) });

const rightsSchema = z.literal(["all", "write"]);

export const helloViewSchema = z.object({
  product: z.literal("still-pine").describe("So that a device knows it is not some other network's page."),
  now: text.nullable().describe("The server's clock; none where it stands still for a demonstration."),
  door: z.literal(["laptop", "phones"]).describe("Where this request came in."),
  who: z.literal(["stranger", "laptop", "all", "write"]),
  why: z
    .literal(["unknown", "withdrawn", "expired", "locked", "other-yard"])
    .nullable()
    .describe("Why a stranger is one, where the device had a key."),
  yard: text.nullable().describe("The yard's id, for those who are let in."),
  name: text.nullable().describe("What the device is called."),
  outing: text.nullable().describe("The one outing a helper writes down."),
});
export type HelloView = z.infer<typeof helloViewSchema>;

export const pairedViewSchema = z.object({
  yard: text,
  name: text,
  rights: rightsSchema,
  outing: text.nullable(),
  expiresAt: text,
  recorder: text.describe("What the device calls itself from now on in the events it records."),
});
export type PairedView = z.infer<typeof pairedViewSchema>;

export const codeViewSchema = z.object({
  code: text,
  expiresAt: text,
  address: text.nullable().describe("What the QR code holds; none where phones are not served."),
});
export type CodeView = z.infer<typeof codeViewSchema>;

export const deviceViewSchema = z.object({
  id: text,
  name: text,
  rights: rightsSchema,
  outing: text.nullable(),
  horseName: text.nullable(),
  version: count,
  pairedAt: text,
  seenAt: text,
  state: z.literal(["in", "withdrawn", "expired"]),
});
export type DeviceView = z.infer<typeof deviceViewSchema>;

export const phonesViewSchema = z.object({
  address: text.nullable().describe("Where phones find Still Pine; none without bin/start --phones."),
  trustAddress: text
    .nullable()
    .describe("Where a phone gets the yard's certificate; none with a certificate of one's own."),
  fingerprint: text.nullable().describe("SHA-256 of the yard's authority."),
  hasPassPhrase: z.boolean(),
  devices: z.array(deviceViewSchema),
});
export type PhonesView = z.infer<typeof phonesViewSchema>;
