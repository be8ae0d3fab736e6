import { useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { findStep, phaseWordsOf, type Program } from "@still-pine/core/programs";
import { FAULT_WORDS } from "@still-pine/core/programs/fault-words";
import { type Fault, type Mood, type Phase, SEVERITIES, type EventBody } from "@still-pine/core/record";
import { actionOf, type PenAction } from "../../pen/keys";
import { useLadderTexts } from "../../parts/use-ladder-texts";
import { FAULT_DIGITS, frightOf, move, sayFault, toRung, turnChip } from "../../pen/moves";
import type { PenSession } from "../../pen/session";
import type { Cell } from "../../pen/snapshot";
import type { PenSettings } from "../../pen/settings";
import { carries, carriesBadly, changeGait, fallIntoCanter } from "../../pen/going";
import { startWatch, stepIn } from "../../pen/watching";
import { usePen } from "./pen-context";

interface PenKeysProps {
  session: PenSession;
  settings: PenSettings;
  steps: readonly string[];
  press: (cell: Cell) => void;
  onMishap: () => void;
  onLock: () => void;
  onVoice: () => void;
  onFinish: () => void;
}

/** A begun two-key entry is dropped after this time. */
const PENDING_MS = 4000;

const clamp = (value: number): number => Math.min(4, Math.max(0, value));

/** Everything a remote, a numeric pad or a keyboard can do. */
export function usePenKeys(props: PenKeysProps): { cursor: Cell | null; pending: string | null } {
  // What was pressed so far counts for the next key at once; that it is drawn may take a moment longer than a quick hand.
  const begun = useRef<Begun>(NOTHING_BEGUN);
  const [shown, setShown] = useState(NOTHING_BEGUN);
  const begin = useCallback((part: Partial<Begun>): void => {
    const now = { ...begun.current, ...part };
    // Most keys begin nothing: then nothing is drawn for it.
    if (now.cursor === begun.current.cursor && now.pending === begun.current.pending) return;
    begun.current = now;
    setShown(now);
  }, []);
  const { faults } = useLadderTexts(usePen((_, { here }) => here.step));
  const held = useRef({ ...props, faults });
  // A key pressed the moment the pad is seen counts: these are in place before it is drawn.
  useLayoutEffect(() => {
    held.current = { ...props, faults };
  });
  const { cursor, pending } = shown;
  useEffect(() => {
    if (pending === null) return undefined;
    const timer = setTimeout(() => begin({ pending: null }), PENDING_MS);
    return () => clearTimeout(timer);
  }, [pending, begin]);
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const { settings } = held.current;
      const target = event.target as HTMLElement | null;
      const isTyping = target?.closest?.("input, textarea, select, [role=slider]");
      if (!settings.keys || isTyping || event.ctrlKey || event.altKey || event.metaKey || event.defaultPrevented)
        return;
      if (begun.current.pending === "fault" && /^\d$/.test(event.key)) {
        event.preventDefault();
        sayFault(held.current.session, Number(event.key), held.current.faults);
        begin({ pending: null });
        return;
      }
      const action = actionOf(settings.keyMap, event.key);
      if (!action) return;
      event.preventDefault();
      if (!event.repeat || action in ARROWS)
        act(action, {
          ...held.current,
          ...begun.current,
          setCursor: (now) => begin({ cursor: now }),
          setPending: (now) => begin({ pending: now }),
        });
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [begin]);
  return { cursor, pending: pendingInWords(pending, props.session.plan.program, faults) };
}

type Pending = "fright" | "fault" | "finish" | Phase | null;

/** What was begun with keys and is not an entry yet. */
interface Begun {
  cursor: Cell | null;
  pending: Pending;
}
const NOTHING_BEGUN: Begun = { cursor: null, pending: null };

function pendingInWords(pending: Pending, program: Program, faults: readonly Fault[]): string | null {
  if (pending === null) return null;
  if (pending === "fault")
    return [
      ...faults.map((fault, at) => `${at + 1} ${FAULT_WORDS[fault]}`),
      ...Object.entries(FAULT_DIGITS).map(([digit, words]) => `${digit} ${words}`),
    ].join(", ");
  if (pending === "fright") return "Fright: how big, 1 to 4?";
  if (pending === "finish") return "Once more to end the outing";
  return `Phase ${pending}, ${phaseWordsOf(program)[pending]}; mood?`;
}

const ARROWS = { up: [0, -1], down: [0, 1], left: [1, 0], right: [-1, 0] } as const;

type Held = PenKeysProps &
  Begun & {
    setCursor: (cell: Cell) => void;
    setPending: (pending: Pending) => void;
  };

function act(action: PenAction, held: Held): void {
  const { session, settings, steps, press, pending } = held;
  const standard = findStep(session.plan.program, session.here.step)?.standard;
  const hasPhase = (standard?.phase ?? null) !== null;
  const here: Cell = held.cursor ?? { phase: standard?.phase ?? 1, mood: standard?.mood ?? 1 };
  const enter = (fields: EventBody): void => {
    session.enter(fields, settings.onceOnly);
  };
  if (action.startsWith("digit-")) {
    const digit = Number(action.slice("digit-".length));
    if (pending === "fright") {
      const size = SEVERITIES.find((one) => one === digit);
      if (size !== undefined) enter(frightOf(session, size));
      held.setPending(null);
    } else if (typeof pending === "number" || !hasPhase) {
      const cell = { ...(typeof pending === "number" ? { phase: pending } : {}), mood: digit as Mood };
      held.setPending(null);
      press(cell);
    } else held.setPending(digit as Phase);
    return;
  }
  if (action !== "finish") held.setPending(action === "fright" || action === "fault" ? action : null);
  switch (action) {
    case "up":
    case "down":
    case "left":
    case "right": {
      const [heavier, tighter] = ARROWS[action];
      // A row of moods runs from over on the left to loose on the right.
      const mood = clamp(here.mood + (hasPhase ? tighter : heavier)) as Mood;
      held.setCursor(hasPhase ? { phase: clamp((here.phase ?? 1) + heavier) as Phase, mood } : { mood });
      return;
    }
    case "press":
      press(hasPhase ? here : { mood: here.mood });
      return;
    case "tried":
    case "neutral":
    case "none":
    case "against":
      session.answer(action, settings.onceOnly);
      return;
    case "rung-up":
    case "rung-down":
      toRung(session, action === "rung-up" ? 1 : -1);
      return;
    case "chip-1":
    case "chip-2":
    case "chip-3":
      turnChip(session, Number(action.slice("chip-".length)) - 1);
      return;
    case "gait-up":
    case "gait-down":
      changeGait(session, action === "gait-up" ? 1 : -1, settings.onceOnly);
      return;
    case "stretches":
      carries(session, "stretches", settings.onceOnly);
      return;
    case "hollow":
      carriesBadly(session, settings.onceOnly);
      return;
    case "unasked":
      fallIntoCanter(session, settings.onceOnly);
      return;
    case "side":
      session.changeSide();
      return;
    case "next":
      move(session, 1, steps);
      return;
    case "back":
      move(session, -1, steps);
      return;
    case "rest":
      session.rest();
      return;
    case "undo":
      session.undo();
      return;
    case "ease":
      enter({ type: "sign", sign: "long-breath" });
      return;
    case "strain":
      enter({ type: "sign", sign: "head-high" });
      return;
    case "fright":
    case "fault":
      return;
    case "watch":
      startWatch(session);
      return;
    case "quiet":
      session.quiet();
      return;
    case "offer":
      session.offer(settings.onceOnly);
      return;
    case "tired":
      enter({ type: "tired", seen: "stumbles" });
      return;
    case "dwell":
      stepIn(session);
      return;
    case "voice":
      held.onVoice();
      return;
    case "mishap":
      held.onMishap();
      return;
    case "lock":
      held.onLock();
      return;
    case "finish":
      if (pending === "finish") held.onFinish();
      else held.setPending("finish");
      return;
    default:
      return;
  }
}
