import createMdns from "multicast-dns";
import { afterEach, describe, expect, it } from "vitest";
import { answerFor, ownAddresses, type LocalName } from "./local-name";

const open: { stop(): void }[] = [];
afterEach(() => {
  for (const one of open.splice(0)) one.stop();
});

const answer = async (name: string, addresses: () => string[]): Promise<LocalName> => {
  const made = await answerFor(name, addresses);
  open.push(made);
  return made;
};

/** What the network says of a name within a second. */
async function ask(name: string): Promise<string[]> {
  const mdns = createMdns();
  open.push({ stop: () => mdns.destroy() });
  return new Promise((resolve) => {
    setTimeout(() => resolve([]), 1000);
    mdns.on("response", ({ answers }) => {
      const found = answers.flatMap((one) => (one.name === name && one.type === "A" ? [one.data] : []));
      if (found.length > 0) resolve(found);
    });
    mdns.query({ questions: [{ name, type: "A" }] });
  });
}

describe("a name on the local network", () => {
  it("is answered with this machine's addresses as they are now, and no other name is", async () => {
    let addresses = ["192.168.7.1"];
    await answer("still-pine-test-a.local", () => addresses);
    expect(await ask("still-pine-test-a.local")).toEqual(["192.168.7.1"]);
    addresses = ["10.1.2.3"];
    expect(await ask("still-pine-test-a.local")).toEqual(["10.1.2.3"]);
    expect(await ask("still-pine-test-b.local")).toEqual([]);
  });

  it("that another machine answers for is not taken, and the line says what to do", async () => {
    await answer("still-pine-test-c.local", () => ["192.168.7.1"]);
    await expect(answerFor("still-pine-test-c.local", () => ["192.168.7.2"])).rejects.toThrow(
      /192\.168\.7\.1.*STILLPINE_NAME=/,
    );
  });

  it("this machine's own addresses are those others can reach", () => {
    for (const address of ownAddresses()) expect(address).not.toMatch(/^(127\.|::1$|fe80)/);
  });
});
