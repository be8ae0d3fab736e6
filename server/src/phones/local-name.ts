import { networkInterfaces } from "node:os";
import createMdns from "multicast-dns";
import { Trouble } from "../cluster/trouble";

/** A name on the local network that stays while addresses change: this machine answers for it (multicast DNS, RFC 6762). */

const TTL_SECONDS = 120;
const ASK_FIRST_MS = 600;

/** This machine's addresses on its networks, IPv4 first. */
export function ownAddresses(): string[] {
  const all = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  const reachable = all.filter(({ internal, address }) => !internal && !address.startsWith("fe80"));
  return reachable.toSorted((a, b) => a.family.localeCompare(b.family)).map(({ address }) => address);
}

export interface LocalName {
  stop(): void;
}

/**
 * Answers for a name until it is stopped. Without a network that carries multicast nothing is answered; phones then use the
 * address by its numbers.
 *
 * @throws Trouble where another machine answers for it already
 */
export async function answerFor(name: string, addresses: () => readonly string[]): Promise<LocalName> {
  const mdns = createMdns();
  let isOurs = false;
  mdns.on("error", () => undefined);
  mdns.on("warning", () => undefined);
  const wanted = name.toLowerCase();
  const taken = await new Promise<string | null>((resolve) => {
    const timer = setTimeout(() => resolve(null), ASK_FIRST_MS);
    mdns.on("response", ({ answers }) => {
      if (isOurs) return;
      for (const answer of answers)
        if (answer.name.toLowerCase() === wanted && answer.type === "A" && !addresses().includes(answer.data)) {
          clearTimeout(timer);
          resolve(answer.data);
        }
    });
    mdns.query({ questions: [{ name, type: "A" }] });
  });
  if (taken !== null) {
    mdns.destroy();
    throw new Trouble(
      `Another machine on this network (${taken}) is called ${name}: start with another name, for example STILLPINE_NAME=our-yard.local bin/start --phones.`,
    );
  }
  isOurs = true;
  mdns.on("query", ({ questions }) => {
    if (!questions.some((one) => one.name.toLowerCase() === wanted && ["A", "AAAA", "ANY"].includes(one.type))) return;
    mdns.respond({
      answers: addresses().map((address) => ({
        name,
        type: address.includes(":") ? "AAAA" : "A",
        ttl: TTL_SECONDS,
        flush: true,
        data: address,
      })),
    });
  });
  return { stop: () => mdns.destroy() };
}
