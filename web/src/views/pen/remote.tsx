import { DEFAULT_KEYS, PEN_ACTIONS } from "../../pen/keys";

const PAD: readonly (readonly string[])[] = [
  ["/", "*", "-", "+"],
  ["7", "8", "9", "PageUp"],
  ["4", "5", "6", "ArrowUp"],
  ["1", "2", "3", "ArrowDown"],
  ["0", ".", "Enter", "ArrowLeft"],
  ["Insert", "Home", "z", "x"],
];
const SHOWN: Record<string, string> = {
  PageUp: "◁",
  ArrowUp: "▲",
  ArrowDown: "▼",
  ArrowLeft: "◀",
  Insert: "−",
  Home: "＋",
  Enter: "Enter",
};

/** A simulated remote: types keys just as a numeric pad in the hand does. */
export function Remote({ map }: { map: typeof DEFAULT_KEYS }) {
  return (
    <section aria-label="Simulated remote" className="rounded-xl border-2 border-line bg-sheet p-2">
      <div className="grid grid-cols-4 gap-1.5">
        {PAD.flat().map((key) => {
          const action = map[key];
          return (
            <button
              key={key}
              type="button"
              className="pen-button flex-col gap-0 px-1 text-center text-xl leading-tight"
              aria-label={`Key ${key}`}
              onClick={() => window.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }))}
            >
              {SHOWN[key] ?? key}
              <span className="text-xs font-normal">{action ? short(PEN_ACTIONS[action]) : ""}</span>
            </button>
          );
        })}
      </div>
    </section>
  );
}

const short = (words: string): string =>
  words
    .replace(/^Answer: /, "")
    .split(/[:;(]/)[0]
    ?.trim() ?? words;
