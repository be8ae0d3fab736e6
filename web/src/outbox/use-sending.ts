import { useSelector } from "react-redux";
import type { Reach } from "./reach";
import type { RootState } from "../store";
import type { SendState } from "./slice";

export const useSending = (): SendState => useSelector((state: RootState) => state.sending);

export const useReach = (): Reach => useSelector((state: RootState) => state.reach);

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
