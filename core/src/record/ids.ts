/**
 * An id is text. Each kind has a type of its own, so that one is not given where another is wanted: a horse's where an outing's belongs
 * does not compile. Plain text, as it is read from an address or a file, may be given for any.
 */
type Id<Of extends string> = string & { readonly idOf?: Of };

export type YardId = Id<"yard">;
export type HorseId = Id<"horse">;
export type OutingId = Id<"outing">;
export type EventId = Id<"event">;
/** A step of the catalogue or of a yard's own program. */
export type StepId = Id<"step">;
/** What a phone, a tablet or a browser is called in what it records. */
export type DeviceId = Id<"device">;
