/** Does a thing so many times, a few of them at once, and gives what each gave, in order. @throws what the first that fails throws */
export async function inFlight<T>(atOnce: number, times: number, one: (index: number) => Promise<T>): Promise<T[]> {
  const given: T[] = [];
  let next = 0;
  const worker = async (): Promise<void> => {
    while (next < times) {
      const index = next;
      next += 1;
      given[index] = await one(index);
    }
  };
  await Promise.all(Array.from({ length: Math.min(atOnce, times) }, worker));
  return given;
}
