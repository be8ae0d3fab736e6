import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { connect } from "node:tls";
import { describe, expect, it } from "vitest";
import { openAuthority, vouchFor } from "./authority";
import { openPhonesDoor } from "./door";

describe("a certificate", () => {
  it("of one's own for a real name takes the place of the yard's, and nothing has to be trusted by hand", async () => {
    const folder = mkdtempSync(path.join(tmpdir(), "still-pine-own-"));
    const authority = await openAuthority(folder);
    const made = await vouchFor(authority, { names: ["pen.example.org"], addresses: [] });
    const own = { cert: path.join(folder, "cert.pem"), key: path.join(folder, "key.pem") };
    writeFileSync(own.cert, made.cert);
    writeFileSync(own.key, made.key);
    const settings = { folder, port: 0, trustPort: 0, name: "still-pine.local", own, announce: false };
    const limits = { requestTimeout: 1000, headersTimeout: 1000, keepAliveTimeout: 1000 };
    const door = await openPhonesDoor(settings, (_request, response) => response.end("here"), limits);
    try {
      expect(door.address).toMatch(/^https:\/\/pen\.example\.org:\d+$/);
      const { port } = new URL(door.address);
      expect(door).toMatchObject({ hosts: [`pen.example.org:${port}`], trustAddress: null, fingerprint: null });
      const subject = await new Promise<string | undefined>((resolve, reject) => {
        const socket = connect({
          host: "127.0.0.1",
          port: Number(port),
          servername: "pen.example.org",
          rejectUnauthorized: false,
        });
        socket.once("error", reject);
        socket.once("secureConnect", () => {
          resolve(socket.getPeerCertificate().subjectaltname);
          socket.destroy();
        });
      });
      expect(subject).toBe("DNS:pen.example.org");
    } finally {
      door.close();
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
