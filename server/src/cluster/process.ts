import { readFileSync } from "node:fs";

interface Process {
  name: string;
  /** When it began, in clock ticks since boot: tells a pid from a later one of the same number. */
  began: string;
}

/** A process that is alive, from /proc; null when it is gone, or dead and only not yet buried. */
export function aliveProcess(pid: number): Process | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, "utf8");
    const end = stat.lastIndexOf(")");
    const [state = "Z", ...fields] = stat.slice(end + 2).split(" ");
    return state === "Z" || state === "X"
      ? null
      : { name: stat.slice(stat.indexOf("(") + 1, end), began: fields[18] ?? "" };
  } catch {
    return null;
  }
}
