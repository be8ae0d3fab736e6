import { connect } from "node:net";
import { Client } from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  clipWithPosition,
  fragmentsWithPosition,
  jpegWithPosition,
  pngOf,
  voiceWithPosition,
  webpWithPosition,
} from "../testing/samples";
import { call, openYard, throwAwayCluster, type TestYard, type ThrowAwayCluster } from "../testing/throw-away";
import { stripStored } from "./strip-stored";
import { kindOf } from "./kind";
import { strip } from "./strip";

const SECRET = "N52.1 W8.6";
const HORSE = { id: "h1", name: "Moss", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };

describe("what a photo or clip hides", () => {
  it.each([
    ["JPEG", jpegWithPosition(SECRET), "image/jpeg"],
    ["PNG", pngOf(8, 8, SECRET), "image/png"],
    ["WebP", webpWithPosition(SECRET), "image/webp"],
    ["MP4", clipWithPosition(SECRET), "video/mp4"],
    ["QuickTime", clipWithPosition(SECRET, "qt  "), "video/quicktime"],
    ["WebM voice note", voiceWithPosition(SECRET), "audio/webm"],
    ["MP4 voice note", clipWithPosition(SECRET, "M4A "), "audio/mp4"],
    ["MP4 in fragments", fragmentsWithPosition(SECRET), "video/mp4"],
  ])("is taken out of a %s, and what is seen stays", (_name, bytes, contentType) => {
    const kind = kindOf(bytes);
    expect(kind?.contentType).toBe(contentType);
    const clean = kind && strip(bytes, kind);
    expect(bytes.includes(SECRET)).toBe(true);
    expect(clean?.includes(SECRET)).toBe(false);
    // Again it is the same, so that sending twice changes nothing.
    expect(clean && kind && strip(clean, kind)).toEqual(clean);
  });

  it("goes out of what the former build had stored, which then is what is stored now", () => {
    for (const bytes of [jpegWithPosition(SECRET), clipWithPosition(SECRET), fragmentsWithPosition(SECRET)]) {
      const kind = kindOf(bytes);
      const before = kind && strip(bytes, kind, "before");
      if (!kind || !before) throw new Error("not stripped");
      expect(before.includes(SECRET)).toBe(true);
      expect(strip(before, kind)).toEqual(strip(bytes, kind));
    }
  });

  it("of a clip leaves what is seen and heard, all of it", () => {
    const seen = (bytes: Buffer): number => bytes.reduce((sum, byte) => sum + (byte === 7 ? 1 : 0), 0);
    for (const [bytes, most] of [
      [clipWithPosition(SECRET), 64],
      [fragmentsWithPosition(SECRET, 5), 400],
    ] as const) {
      const kind = kindOf(bytes);
      const clean = kind && strip(bytes, kind);
      expect(clean && seen(clean)).toBe(most);
    }
  });

  it("of millions of boxes is refused at once", { timeout: 5000 }, () => {
    const head = clipWithPosition(SECRET);
    const free = Buffer.from([0, 0, 0, 8, 0x66, 0x72, 0x65, 0x65]);
    const bytes = Buffer.concat([head, Buffer.alloc(48 * 1024 * 1024, free)]);
    const kind = kindOf(bytes);
    expect(kind && strip(bytes, kind)).toBeNull();
  });

  it("leaves the picture of a JPEG byte for byte, and every offset of a clip", () => {
    const jpeg = jpegWithPosition(SECRET);
    const kind = kindOf(jpeg);
    const clean = kind && strip(jpeg, kind);
    const scan = jpeg.subarray(
      jpeg.indexOf(Buffer.from([0xff, 0xda])),
      jpeg.lastIndexOf(Buffer.from([0xff, 0xd9])) + 2,
    );
    expect(clean?.includes(scan)).toBe(true);
    const clip = clipWithPosition(SECRET);
    const clipKind = kindOf(clip);
    const cleanClip = clipKind && strip(clip, clipKind);
    expect(cleanClip?.length).toBe(clip.length);
    expect(cleanClip?.indexOf("mdat")).toBe(clip.indexOf("mdat"));
  });

  it("of any file cut off anywhere is never guessed at", () => {
    for (const bytes of [jpegWithPosition(), pngOf(8, 8), webpWithPosition()]) {
      const kind = kindOf(bytes);
      if (!kind) throw new Error("no kind");
      const end = strip(bytes, kind)?.length ?? 0;
      for (let length = 16; length < Math.min(bytes.length - SECRET.length, end); length += 1)
        expect([kind.contentType, length, strip(bytes.subarray(0, length), kind)]).toEqual([
          kind.contentType,
          length,
          null,
        ]);
    }
  });

  it("of a voice note leaves the sound where it was; a WebM film is none", () => {
    const voice = voiceWithPosition(SECRET);
    const kind = kindOf(voice);
    const clean = kind && strip(voice, kind);
    const cluster = Buffer.from([0x1f, 0x43, 0xb6, 0x75]);
    expect(clean?.length).toBe(voice.length);
    expect(clean?.subarray(clean.indexOf(cluster))).toEqual(voice.subarray(voice.indexOf(cluster)));
    expect(kind && strip(voice.subarray(0, voice.indexOf(cluster)), kind)).toBeNull();
    expect(kindOf(voiceWithPosition(SECRET, "V_VP8 A_OPUS"))).toBeNull();
    expect(kindOf(voiceWithPosition(SECRET, "S_TEXT"))).toBeNull();
  });

  it("is no question for what is no photo or clip", () => {
    for (const text of [
      "<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>",
      "GIF89a................",
      "%PDF-1.7 ...........",
    ])
      expect(kindOf(Buffer.from(text))).toBeNull();
    expect(kindOf(clipWithPosition("x", "heic"))).toBeNull();
  });
});

describe("photos and clips of a horse", () => {
  let cluster: ThrowAwayCluster;
  let home: TestYard;
  beforeAll(async () => {
    cluster = await throwAwayCluster();
    home = await openYard(await cluster.database(), "2026-06-10T12:00:00Z");
    await call(`${home.url}/api/horses`, "POST", HORSE);
    await call(`${home.url}/api/horses`, "POST", { ...HORSE, id: "h2" });
  });
  afterAll(async () => {
    await home?.close();
    await cluster?.remove();
  });
  const put = async (path: string, bytes: Buffer) => {
    const response = await fetch(`${home.url}/api${path}`, { method: "PUT", body: new Uint8Array(bytes) });
    return { status: response.status, body: (await response.json()) as any };
  };
  const get = (path: string, headers: Record<string, string> = {}) => fetch(`${home.url}/api${path}`, { headers });

  it("are stored once, by what they are and not by what was said of them", async () => {
    const response = await fetch(`${home.url}/api/horses/h1/media/m1`, {
      method: "PUT",
      headers: { "Content-Type": "text/html" },
      body: new Uint8Array(jpegWithPosition()),
    });
    expect([response.status, await response.json()]).toEqual([
      201,
      expect.objectContaining({ id: "m1", contentType: "image/jpeg", hasThumbnail: false }),
    ]);
    expect((await put("/horses/h1/media/m1", jpegWithPosition("elsewhere"))).status).toBe(200);
    expect((await put("/horses/h1/media/m1", pngOf(8, 8))).status).toBe(409);
    expect((await put("/horses/h2/media/m1", jpegWithPosition())).status).toBe(409);
    const seen = await get("/media/m1");
    expect(seen.headers.get("content-type")).toBe("image/jpeg");
    expect(seen.headers.get("content-security-policy")).toBe("default-src 'none'; sandbox");
    expect(seen.headers.get("x-content-type-options")).toBe("nosniff");
  });

  it("that are too many pixels, too large, cut off or something else are refused with the reason", async () => {
    const why = async (bytes: Buffer): Promise<[number, string]> => {
      const { status, body } = await put("/horses/h1/media/m2", bytes);
      return [status, body.detail];
    };
    expect(await why(pngOf(100_000, 100_000))).toEqual([
      422,
      "Expected at most 60 million pixels, found 100000 × 100000.",
    ]);
    expect(await why(Buffer.concat([jpegWithPosition(), Buffer.alloc(11 * 1024 * 1024)]))).toEqual([
      413,
      "Expected a photo of at most 10 MB, found 11.0 MB.",
    ]);
    expect(await why(jpegWithPosition().subarray(0, 150))).toEqual([422, expect.stringContaining("damaged")]);
    expect(await why(Buffer.from("<svg/>"))).toEqual([415, expect.stringContaining("Expected a JPEG")]);
    expect((await put("/horses/h1/media/..%2f..%2fx", jpegWithPosition())).status).toBe(400);
    expect((await put("/horses/none/media/m2", jpegWithPosition())).status).toBe(404);
  });

  it("are read in ranges, across the pieces they are stored in", async () => {
    const clip = clipWithPosition(SECRET, "isom", 3 * 1024 * 1024 + 5);
    expect((await put("/horses/h1/media/clip", clip)).status).toBe(201);
    const kind = kindOf(clip);
    const whole = kind && strip(clip, kind);
    if (!whole) throw new Error("no clip");
    expect(Buffer.from(await (await get("/media/clip")).arrayBuffer()).equals(whole)).toBe(true);
    for (const [range, from, to] of [
      ["bytes=0-0", 0, 1],
      ["bytes=1048570-1048580", 1_048_570, 1_048_581],
      ["bytes=-7", whole.length - 7, whole.length],
      ["bytes=2000000-", 2_000_000, whole.length],
    ] as const) {
      const part = await get("/media/clip", { Range: range });
      expect([part.status, part.headers.get("content-range")]).toEqual([
        206,
        `bytes ${from}-${to - 1}/${whole.length}`,
      ]);
      expect(Buffer.from(await part.arrayBuffer()).equals(whole.subarray(from, to))).toBe(true);
    }
    const beyond = await get("/media/clip", { Range: "bytes=99999999-" });
    expect([beyond.status, beyond.headers.get("content-range")]).toEqual([416, `bytes */${whole.length}`]);
  });

  it("too large to be held are stored the same, sent twice and at once, and are refused for the same reasons", async () => {
    const MB = 1024 * 1024;
    const clip = clipWithPosition(SECRET, "isom", 12 * MB + 5);
    const kind = kindOf(clip);
    const clean = kind && strip(clip, kind);
    const before = kind && strip(clip, kind, "before");
    if (!clean || !before) throw new Error("no clip");
    const [one, other] = await Promise.all([put("/horses/h1/media/long", clip), put("/horses/h1/media/long", clip)]);
    expect([one.status, other.status].toSorted()).toEqual([200, 201]);
    expect(one.body).toMatchObject({ id: "long", contentType: "video/mp4", byteCount: clip.length });
    expect(Buffer.from(await (await get("/media/long")).arrayBuffer()).equals(clean)).toBe(true);
    // What the former build stored of it is the same clip.
    await home.asOwner(
      `insert into media (yard_id, id, horse_id, content_type, byte_count, sha256, content, stripped)
       values ($1, 'long-before', 'h1', 'video/mp4', $2::int, encode(sha256($3::bytea), 'hex'), $3::bytea, 2)`,
      [home.yard.id, before.length, before],
    );
    expect((await put("/horses/h1/media/long-before", clip)).status).toBe(200);
    expect((await put("/horses/h1/media/long-before", clipWithPosition(SECRET, "isom", 13 * MB))).status).toBe(409);

    const why = async (bytes: Buffer): Promise<[number, string]> => {
      const { status, body } = await put("/horses/h1/media/long-2", bytes);
      return [status, body.detail];
    };
    expect(await why(clip.subarray(0, 11 * MB))).toEqual([422, expect.stringContaining("damaged")]);
    expect(await why(Buffer.alloc(11 * MB))).toEqual([415, expect.stringContaining("found something else")]);
    expect(await why(clipWithPosition(SECRET, "M4A ", 12 * MB))).toEqual([
      413,
      expect.stringContaining("a voice note of at most 10 MB"),
    ]);
    // Whoever does not say beforehand how much comes is told when it is too much.
    const pieces = new ReadableStream<Uint8Array>({
      pull: (controller) => controller.enqueue(new Uint8Array(MB)),
    });
    const endless = await fetch(`${home.url}/api/horses/h1/media/long-3`, {
      method: "PUT",
      body: pieces,
      duplex: "half",
    } as RequestInit).catch(() => null);
    if (endless) expect(endless.status).toBe(413);
    expect((await get("/media/long-3")).status).toBe(404);
  });

  it("cut off on the way leave nothing, and come whole the next time", async () => {
    const clip = clipWithPosition(SECRET, "isom", 12 * 1024 * 1024);
    const { hostname, port } = new URL(home.url);
    await new Promise<void>((resolve, reject) => {
      const socket = connect(Number(port), hostname, () => {
        socket.write(
          `PUT /api/horses/h1/media/torn HTTP/1.1\r\nHost: ${hostname}:${port}\r\nContent-Length: ${clip.length}\r\n\r\n`,
        );
        socket.write(clip.subarray(0, 11 * 1024 * 1024), () => socket.destroy());
      });
      socket.on("close", () => resolve());
      socket.on("error", reject);
    });
    expect((await get("/media/torn")).status).toBe(404);
    expect((await put("/horses/h1/media/torn", clip)).status).toBe(201);
  });

  it("that the former build stored are gone through once at the next start, and are still the same", async () => {
    const photo = jpegWithPosition(SECRET);
    const kind = kindOf(photo);
    const before = kind && strip(photo, kind, "before");
    if (!before) throw new Error("no photo");
    await home.asOwner(
      `insert into media (yard_id, id, horse_id, content_type, byte_count, sha256, content)
       values ($1, 'old', 'h1', 'image/jpeg', $2::int, encode(sha256($3::bytea), 'hex'), $3::bytea)`,
      [home.yard.id, before.length, before],
    );
    // Sent again before it was cleaned, and after.
    expect((await put("/horses/h1/media/old", photo)).status).toBe(200);
    const owner = new Client({ connectionString: home.ownerUrl });
    await owner.connect();
    expect([await stripStored(owner), await stripStored(owner)]).toEqual([1, 0]);
    await owner.end();
    const clean = Buffer.from(await (await get("/media/old")).arrayBuffer());
    expect([clean.includes(SECRET), clean.equals(strip(photo, kind) ?? photo)]).toEqual([false, true]);
    for (const bytes of [photo, before, clean]) expect((await put("/horses/h1/media/old", bytes)).status).toBe(200);
  });

  it("go when their horse is buried, with the words of its notes; its events stay", async () => {
    await put("/horses/h2/media/m3", jpegWithPosition());
    await put("/media/m3/thumbnail", jpegWithPosition());
    const note = { id: "bn", at: "2026-06-01T10:00:00Z", type: "note", text: "limped behind" };
    const fix = {
      id: "bc",
      at: "2026-06-01T11:00:00Z",
      type: "correction",
      replaces: "bn",
      with: { text: "limped in front" },
    };
    await call(`${home.url}/api/events`, "POST", {
      events: [note, fix].map((event) => ({ horse: "h2", outing: null, event })),
    });
    await expect(home.db.query("select bury_horse($1, 'h2')", [home.yard.id])).rejects.toThrow("permission denied");
    await home.asOwner("select bury_horse($1, 'h2')", [home.yard.id]);
    expect((await get("/media/m3")).status).toBe(404);
    const record = await (await get("/horses/h2/record")).text();
    expect(record).not.toContain("limped");
    expect(JSON.parse(record).horseEvents.map((one: any) => [one.id, one.type])).toEqual([
      ["bn", "note"],
      ["bc", "correction"],
    ]);
    const { rows } = await home.db.query(
      "select count(*)::int as n from ledger where horse_id = 'h2' and current::text like '%limped%'",
    );
    expect(rows[0].n).toBe(0);
    const string = (await call(`${home.url}/api/string`, "GET")).body;
    expect(string.horses.map((one: any) => one.id)).toEqual(["h1"]);
  });
});
