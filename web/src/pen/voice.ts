import type { HorseId, OutingId } from "@still-pine/core/record";
import { v7 as newId } from "uuid";
import { keeper, type KeptMedia } from "../outbox/kept";

const PART_MS = 2000;
const LONGEST_MS = 120_000;
const KINDS = ["audio/webm;codecs=opus", "audio/mp4"];

export interface VoiceNote {
  id: string;
  /** Ends it; done when the whole of it lies on the device. */
  stop: () => Promise<void>;
}

/**
 * Begins a voice note. What was spoken is kept every two seconds, so that a phone that dies loses no more.
 *
 * @param onLongest called when it has gone on for two minutes and should be ended
 * @returns the note, or in words why there is none
 */
export async function startVoice(
  outing: { id: string; horse: HorseId },
  onLongest: () => void,
): Promise<VoiceNote | string> {
  const mimeType = KINDS.find((kind) => globalThis.MediaRecorder?.isTypeSupported(kind));
  if (!mimeType || !navigator.mediaDevices) return "This browser records no voice.";
  let stream: MediaStream;
  try {
    stream = await navigator.mediaDevices.getUserMedia({ audio: true });
  } catch {
    return "The microphone is not allowed here.";
  }
  const kept = await keeper();
  const media: KeptMedia = {
    id: newId(),
    outing: outing.id,
    horse: outing.horse,
    kind: "voice",
    parts: [],
    thumbnail: null,
    isWhole: false,
    sent: 0,
  };
  const recorder = new MediaRecorder(stream, { mimeType });
  let writing: Promise<void> = Promise.resolve();
  recorder.ondataavailable = ({ data }) => {
    if (data.size === 0) return;
    media.parts.push(data);
    writing = writing.then(() => kept.keepMedia({ ...media, parts: [...media.parts] })).catch(() => undefined);
  };
  recorder.start(PART_MS);
  const stop = (): Promise<void> =>
    new Promise((resolve) => {
      const end = (): void => {
        for (const track of stream.getTracks()) track.stop();
        void writing
          .then(() => kept.keepMedia({ ...media, isWhole: true }))
          .catch(() => undefined)
          .then(resolve);
      };
      if (recorder.state === "inactive") end();
      else {
        recorder.onstop = end;
        recorder.stop();
      }
    });
  setTimeout(() => recorder.state !== "inactive" && onLongest(), LONGEST_MS);
  return { id: media.id, stop };
}

/** Voice notes the page was closed over: what was kept of each is all of it. */
export async function recoverVoice(outing: OutingId): Promise<void> {
  const kept = await keeper();
  const cut = (await kept.unsentMedia()).filter(
    (one) => one.outing === outing && !one.isWhole && one.kind === "voice" && one.parts.length > 0,
  );
  await Promise.all(cut.map((one) => kept.keepMedia({ ...one, isWhole: true })));
}
