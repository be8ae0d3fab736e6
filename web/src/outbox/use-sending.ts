import { useSyncExternalStore } from "react";
import { onReach, readReach, type Reach } from "../alone/reach";
import { onSendState, readSendState, type SendState } from "./send";

export const useSending = (): SendState => useSyncExternalStore(onSendState, readSendState);

export const useReach = (): Reach => useSyncExternalStore(onReach, readReach);

/** A moment of today by its time, an earlier one with its day. */
export function shownTime(at: string, now = new Date()): string {
  const date = new Date(at);
  const isToday = date.toDateString() === now.toDateString();
  return new Intl.DateTimeFormat(undefined, {
    hour: "2-digit",
    minute: "2-digit",
    ...(isToday ? {} : { day: "numeric", month: "short" }),
  }).format(date);
}
