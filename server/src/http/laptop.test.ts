import { describe, expect, it } from "vitest";
import { openPhones } from "../testing/phones";
import { call, yardsForTests } from "../testing/throw-away";

const now = (): string => "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(now);

describe("the laptop", () => {
  it("needs nothing on loopback, unless the yard has a pass phrase; wrong ones are counted", async () => {
    const locked = yard();
    const put = (body: object, cookie = "") =>
      fetch(`${locked.url}/api/pass-phrase`, {
        method: "PUT",
        headers: { "Content-Type": "application/json", Cookie: cookie },
        body: JSON.stringify(body),
      });
    const cookieOf = (response: Response): string => response.headers.get("set-cookie")?.split(";")[0] ?? "";
    expect((await put({ phrase: "short" })).status).toBe(400);
    const set = await put({ phrase: "seven quiet mares" });
    expect(set.status).toBe(204);
    const mine = cookieOf(set);
    const status = async (cookie: string): Promise<number> =>
      (await fetch(`${locked.url}/api/string`, { headers: { Cookie: cookie } })).status;
    expect([await status(""), await status(mine), await status("still-pine-laptop=x")]).toEqual([401, 200, 401]);
    const { rows } = await locked.asOwner("select pass_phrase_hash as hash from yard");
    expect(rows[0].hash).toMatch(/^\$argon2id\$/);

    // A code for a helper, used on the laptop itself, opens nothing there; nor does a phone's key.
    const horse = { foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
    const asLaptop = (path: string, method: string, body: object): Promise<Response> =>
      fetch(`${locked.url}/api/${path}`, {
        method,
        headers: { "Content-Type": "application/json", Cookie: mine },
        body: JSON.stringify(body),
      });
    await asLaptop("horses", "POST", { id: "h1", name: "Secret", ...horse });
    const start = { id: "o1:start", at: now(), type: "outing-start", place: "Pen", handler: "M" };
    await asLaptop("events", "POST", { events: [{ horse: "h1", outing: "o1", event: start }] });
    for (const rights of [{ rights: "write", outing: "o1" }, { rights: "all" }]) {
      const { code } = (await (await asLaptop("codes", "POST", rights)).json()) as { code: string };
      const paired = await call(`${locked.url}/api/pair`, "POST", { code, name: "Sly" });
      const key = /=([^;]+)/.exec(paired.headers.get("set-cookie") ?? "")?.[1];
      expect([paired.status, key?.length]).toEqual([201, 43]);
      expect(await status(`still-pine-laptop=${key}; __Host-still-pine=${key}`)).toBe(401);
    }
    // And the laptop's own key is no phone's.
    const phone = await openPhones(locked, now);
    try {
      const answer = await phone.call("GET", "/api/string", { key: mine.split("=")[1] ?? "" });
      expect([answer.status, answer.body.why]).toEqual([401, "unknown"]);
    } finally {
      phone.close();
    }

    const unlock = (phrase: string) => call(`${locked.url}/api/unlock`, "POST", { phrase });
    const right = await unlock("seven quiet mares");
    expect(right.status).toBe(204);
    expect(await status(right.headers.get("set-cookie")?.split(";")[0] ?? "")).toBe(200);
    expect((await put({ phrase: null }, mine)).status).toBe(422);
    expect((await put({ phrase: "another long phrase", current: "seven quiet mares" }, mine)).status).toBe(204);
    // Whoever was let in by the old phrase types the new one.
    expect(await status(right.headers.get("set-cookie")?.split(";")[0] ?? "")).toBe(401);
    const wrong = [];
    for (let n = 0; n < 5; n += 1) wrong.push((await unlock("seven quiet mares")).status);
    expect(wrong).toEqual([422, 422, 422, 422, 422]);
    expect((await unlock("another long phrase")).status).toBe(429);
  });
});
