import { X509Certificate } from "node:crypto";
import { readFileSync } from "node:fs";
import { createServer as createHttpServer, type RequestListener, type Server } from "node:http";
import { createServer as createHttpsServer } from "node:https";
import path from "node:path";
import { Trouble } from "../cluster/trouble";
import { isPrivate, openAuthority, toDer, vouchFor } from "./authority";
import { answerFor, ownAddresses, type LocalName } from "./local-name";
import { keepListening, report, safely } from "../process/safely";
import { trustPage } from "./trust-page";

/** Where phones come in. */
export interface PhonesDoor {
  /** Such as `https://still-pine.local:7464`. */
  address: string;
  /** Every host they may call, with the port. */
  hosts: readonly string[];
  /** Where they get the yard's certificate; none with a certificate of one's own. */
  trustAddress: string | null;
  fingerprint: string | null;
}

export interface PhonesSettings {
  folder: string;
  /** 0 takes any free one. */
  port: number;
  trustPort: number;
  /** The name phones call. */
  name: string;
  /** A certificate of one's own and its key, as files. */
  own: { cert: string; key: string } | null;
  /** Whether to answer for the name on the network. */
  announce: boolean;
}

/** How long requests may take to come, and connections may stand idle, in milliseconds. */
export interface DoorLimits {
  requestTimeout: number;
  headersTimeout: number;
  keepAliveTimeout: number;
}

export interface OpenDoor extends PhonesDoor {
  close(): void;
}

const LOOK_AGAIN_MS = 30_000;
/** A server certificate is made anew when so much of its time is over. */
const RENEW_MS = 30 * 86_400_000;

/** Opens HTTPS on the local network, with the way for a phone to learn to trust it. */
export async function openPhonesDoor(
  settings: PhonesSettings,
  application: RequestListener,
  limits: DoorLimits,
): Promise<OpenDoor> {
  if (settings.own) return openWithOwn(settings, settings.own, application, limits);
  const authority = await openAuthority(path.join(settings.folder, "phones"));
  const names = [settings.name, "localhost"];
  const addresses = (): string[] => ownAddresses().filter(isPrivate);
  const certify = () => vouchFor(authority, { names, addresses: [...addresses(), "127.0.0.1", "::1"] });
  const server = createHttpsServer({ ...limits, ...(await certify()) }, application);
  const port = await listen(server, settings.port, "STILLPINE_PHONES_PORT");
  let name: LocalName | null = null;
  try {
    if (settings.announce) name = await answerFor(settings.name, ownAddresses);
  } catch (cause) {
    server.close();
    throw cause;
  }
  const address = `https://${settings.name}:${port}`;
  const trust = createHttpServer(
    limits,
    safely(trustPage({ address, fingerprint: authority.fingerprint, der: toDer(authority) })),
  );
  const trustPort = await listen(trust, settings.trustPort, "STILLPINE_PHONES_PORT");

  // Another network, other addresses: the certificate follows, the name and the port stay.
  let known = addresses().join();
  let madeAt = Date.now();
  const looking = setInterval(() => {
    const now = addresses().join();
    if (now === known && Date.now() - madeAt < RENEW_MS) return;
    known = now;
    madeAt = Date.now();
    certify().then(
      (made) => server.setSecureContext(made),
      (cause: unknown) => report("in making the certificate anew", cause),
    );
  }, LOOK_AGAIN_MS);
  looking.unref();

  return {
    address,
    get hosts() {
      return [...names, ...addresses(), "127.0.0.1", "[::1]"].map((host) => `${bracketed(host)}:${port}`);
    },
    trustAddress: `http://${settings.name}:${trustPort}`,
    fingerprint: authority.fingerprint,
    close: () => {
      clearInterval(looking);
      name?.stop();
      for (const one of [server, trust]) {
        one.close();
        one.closeAllConnections();
      }
    },
  };
}

const bracketed = (host: string): string => (host.includes(":") && !host.startsWith("[") ? `[${host}]` : host);

/** With a real name and a certificate for it nothing has to be trusted by hand. */
async function openWithOwn(
  settings: PhonesSettings,
  own: { cert: string; key: string },
  application: RequestListener,
  limits: DoorLimits,
): Promise<OpenDoor> {
  const read = (file: string, setting: string): string => {
    try {
      return readFileSync(file, "utf8");
    } catch (cause) {
      throw new Trouble(`${setting}: ${file} cannot be read: name the file, in PEM form.`, { cause });
    }
  };
  const cert = read(own.cert, "STILLPINE_CERT");
  const key = read(own.key, "STILLPINE_KEY");
  let hosts: string[];
  let server: Server;
  try {
    const { subjectAltName = "" } = new X509Certificate(cert);
    hosts = [...subjectAltName.matchAll(/DNS:([^,*\s]+)(?:,|$)/g)].map(([, host]) => (host ?? "").toLowerCase());
    server = createHttpsServer({ ...limits, cert, key }, application);
  } catch (cause) {
    throw new Trouble(
      `STILLPINE_CERT and STILLPINE_KEY do not go together (${cause instanceof Error ? cause.message : String(cause)}): name a certificate in PEM form and its own key.`,
      { cause },
    );
  }
  const [first] = hosts;
  if (first === undefined)
    throw new Trouble("STILLPINE_CERT: the certificate names no host: use one with the name phones call.");
  const port = await listen(server, settings.port, "STILLPINE_PHONES_PORT");
  return {
    address: `https://${first}${port === 443 ? "" : `:${port}`}`,
    hosts: hosts.flatMap((host) => (port === 443 ? [host, `${host}:443`] : [`${host}:${port}`])),
    trustAddress: null,
    fingerprint: null,
    close: () => {
      server.close();
      server.closeAllConnections();
    },
  };
}

/** Takes a port on every network. @throws Trouble where it is not to be had */
function listen(server: Server, port: number, setting: string): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once("error", (cause: NodeJS.ErrnoException) => {
      if (cause.code === "EADDRINUSE" || cause.code === "EACCES")
        reject(
          new Trouble(
            `Port ${port} for phones is ${cause.code === "EACCES" ? "not yours to use" : "taken by another program"}: set another one with ${setting}, and keep it; phones know Still Pine by it.`,
          ),
        );
      else reject(cause);
    });
    server.listen(port, () => {
      keepListening(server);
      const address = server.address();
      resolve(address && typeof address === "object" ? address.port : port);
    });
  });
}
