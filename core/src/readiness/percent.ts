/** A share as it is read. */
export const percent = (value: unknown): string => `${Math.round(Number(value) * 100)} %`;
