/** Standing times and doses grow by about a third each, and by one at the least. `aThirdMore(12)` is 16. Still Pine's own judgement. */
export const aThirdMore = (amount: number): number => Math.max(amount + 1, Math.round((amount * 4) / 3));
