/** Divisor for adults, centimetres: Carroll & Huntington 1988, Equine Veterinary Journal 20:41–45. */
const ADULT_DIVISOR = 11_877;

/**
 * Weight of a grown horse from a tape: girth² × length ÷ 11 877. An estimate; foals and yearlings need other divisors.
 *
 * @param girthCm round the heart girth
 * @param lengthCm point of shoulder to point of buttock
 * @returns kilograms, unrounded
 */
export function weightFromTape(girthCm: number, lengthCm: number): number {
  return (girthCm ** 2 * lengthCm) / ADULT_DIVISOR;
}
