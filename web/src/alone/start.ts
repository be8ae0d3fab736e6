import type { YardId } from "@still-pine/core/record";
import type { HelloView } from "@still-pine/contract/http";
import { linkTo } from "../ask";
import { api } from "../api";
import { runningOutings } from "../outbox/running";
import { keeper } from "../outbox/kept";
import { keepSending, onSent, sender } from "../outbox/send";
import { knownYard, meetYard, yardHeader } from "../outbox/yard";
import { store } from "../store";
import { forgetPacks, refreshPacks, yardPack } from "./packs";
import { newVersionCame, storageCleared } from "../outbox/reach";

/** What runs beside the pages from the first one on: sending, keeping what a day needs, and the new version that waits. */

/** What a day needs is fetched when the first page has long been there and read. */
const FIRST_MS = 5000;
const BACK_MS = 1000;
const AFTER_SENDING_MS = 4000;
const EVERY_MS = 10 * 60_000;

/** Starts it once; returns how to stop. @param onHello told who this device is to the server */
export function startAlone(onHello: (hello: HelloView) => void): () => void {
  const stopSending = keepSending();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const refreshIn = (ms: number): void => {
    clearTimeout(timer);
    // Nothing is fetched and put away while somebody taps in the pen; it is made up for when they come out.
    timer = setTimeout(() => void refresh().finally(() => refreshIn(isInPen() ? AFTER_SENDING_MS : EVERY_MS)), ms);
  };
  let version: Promise<void> | undefined;
  const refresh = async (): Promise<void> => {
    if (!navigator.onLine || document.visibilityState === "hidden") return;
    // Who went straight into the pen has nothing to judge by yet: that once it is fetched all the same.
    if (isInPen() && (await yardPack()) !== null) return;
    version ??= waitForVersion().then(tidy);
    const hello = await sender.hello();
    if (typeof hello === "string") return;
    await meet(hello);
    onHello(hello);
    if (hello.who === "laptop" || hello.who === "all") await refreshPacks(ask, new Date().toISOString());
  };
  const stopListening = onSent(() => {
    store.dispatch(api.util.invalidateTags(["String", "Horse", "Ledger"]));
    refreshIn(AFTER_SENDING_MS);
  });
  // Pages that were answered from here are asked for again when the server is back.
  const back = (): void => {
    if (store.getState().reach.aloneSince !== null)
      store.dispatch(api.util.invalidateTags(["String", "Horse", "Ledger", "Labels"]));
    refreshIn(BACK_MS);
  };
  window.addEventListener("online", back);
  refreshIn(FIRST_MS);
  return () => {
    stopSending();
    stopListening();
    clearTimeout(timer);
    window.removeEventListener("online", back);
  };
}

/** Another yard at the laptop is taken up where nothing of the old one waits here; where something does, a person decides. */
async function meet(hello: HelloView): Promise<void> {
  if (hello.why === "other-yard" && hello.door === "laptop" && (await isEmpty())) {
    const own = await fetch(linkTo<"hello">("/hello", {})).then((response) => response.json() as Promise<HelloView>);
    if (own.yard !== null) await changeYard(own.yard);
    return;
  }
  if (hello.yard === null || knownYard() !== null) return;
  // A phone knows its yard from its pairing on; one that has its key alone was cleared.
  if (hello.door === "phones") store.dispatch(storageCleared());
  meetYard(hello.yard);
}

async function isEmpty(): Promise<boolean> {
  const { waiting, refused, media } = await (await keeper()).counts();
  return waiting + refused + media === 0;
}

async function ask(path: string): Promise<unknown> {
  try {
    const response = await fetch(`/api/${path}`, { headers: yardHeader() });
    return response.ok ? ((await response.json()) as unknown) : null;
  } catch {
    return null;
  }
}

/** What was sent long ago need not lie here any more. */
async function tidy(): Promise<void> {
  await (await keeper()).letGo(new Date(Date.now() - KEEP_MS).toISOString()).catch(() => undefined);
}

const KEEP_MS = 14 * 24 * 60 * 60_000;

/** Works for the yard that answers here from now on. What waits for the other one is put aside, with the reason. */
export async function changeYard(yard: YardId): Promise<void> {
  const kept = await keeper();
  const waiting = await kept.unsent();
  await kept.settle(waiting.map((one) => ({ ...one, sent: 2 as const, refused: "It was recorded for another yard." })));
  await forgetPacks();
  meetYard(yard, true);
  location.assign("/");
}

const isInPen = (): boolean => /^\/(pen|rail)\//.test(location.pathname);

/** Whether a new version may take over now: nobody is in the pen, and nothing is on its way. */
async function isQuiet(): Promise<boolean> {
  if (isInPen()) return false;
  return (await runningOutings()).length === 0 && store.getState().sending.waiting === 0;
}

const LOOK_AGAIN_MS = 60 * 60_000;
let takeOver = (): void => undefined;

/** Lets a new version in that waits. Another page may have let it in meanwhile: then this one only has to be opened anew. */
export async function takeNewVersion(): Promise<void> {
  const registration = await navigator.serviceWorker.getRegistration();
  if (registration?.waiting) takeOver();
  else location.reload();
}

/** Registers the part that opens the pages without a network. A new one waits until nobody is in the pen. */
async function waitForVersion(): Promise<void> {
  if (!("serviceWorker" in navigator) || import.meta.env.DEV) return;
  const { Workbox } = await import("workbox-window");
  const workbox = new Workbox("/sw.js");
  workbox.addEventListener("waiting", () => {
    takeOver = () => workbox.messageSkipWaiting();
    store.dispatch(newVersionCame());
  });
  workbox.addEventListener("controlling", ({ isUpdate }) => {
    // Another page let it in; whoever is in the pen goes on with the version they began with.
    if (isUpdate && !isInPen()) location.reload();
  });
  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "hidden") void isQuiet().then((quiet) => quiet && takeOver());
  });
  await workbox.register().catch(() => undefined);
  setInterval(() => void workbox.update().catch(() => undefined), LOOK_AGAIN_MS);
}
