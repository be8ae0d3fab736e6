import { createHash, randomBytes, randomInt } from "node:crypto";

/** Letters and digits nobody mixes up when reading them aloud or off a screen. */
const CODE_LETTERS = "23456789ABCDEFGHJKMNPQRSTUVWXYZ";
const CODE_LENGTH = 8;

/** A new pairing code: eight letters and digits, 39 bits, in two groups, such as `7KQM-2XWD`. */
export function newCode(): string {
  const letters = Array.from({ length: CODE_LENGTH }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join("");
  return `${letters.slice(0, CODE_LENGTH / 2)}-${letters.slice(CODE_LENGTH / 2)}`;
}

/** A code as somebody typed it: small letters, spaces and a missing dash are no mistake. */
export const plainCode = (typed: string): string => typed.toUpperCase().replace(/[^A-Z0-9]/g, "");

/** A new key of a device: 256 bits nobody guesses. */
export const newKey = (): string => randomBytes(32).toString("base64url");

/** How keys and codes are stored: SHA-256. A key of 256 random bits needs no salt; a code is dead before it could be searched for. */
export const hashOf = (secret: string): Buffer => createHash("sha256").update(secret).digest();
