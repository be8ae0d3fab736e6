import { Timer } from "lucide-react";
import { useEffect, useState } from "react";
import { CATCHES, COMPANIES } from "@still-pine/core/record";
import { plain } from "../../parts/choice-words";
import { clockOf } from "../../pen/words";
import type { CardDraft } from "./card-draft";

const STATES = ["sore", "fresh", "inSeason", "feedChanged", "onlookers"] as const;
const STATE_WORDS: Record<string, string> = { inSeason: "in season", feedChanged: "feed changed" };
const say = (word: string): string => STATE_WORDS[word] ?? plain(word);
const CHIP = "chip aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine";

/** Fetching him: how he was caught, in how many seconds, and how he is. On some mornings that is the measure. */
export function Fetching({ card, onChange }: { card: CardDraft; onChange: (part: Partial<CardDraft>) => void }) {
  const { watchFrom, caughtSeconds } = card;
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (watchFrom === null) return undefined;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [watchFrom]);
  const seconds = watchFrom === null ? caughtSeconds : Math.max(0, (now - watchFrom) / 1000);
  const press = (): void => {
    const moment = Date.now();
    setNow(moment);
    if (watchFrom === null) onChange({ watchFrom: moment, caughtSeconds: null });
    else onChange({ watchFrom: null, caughtSeconds: Math.max(0, Math.round((moment - watchFrom) / 1000)) });
  };
  const toggle = (name: string): void => {
    const others = card.state.filter((one) => one !== name && !(isCompany(name) && isCompany(one)));
    onChange({ state: card.state.includes(name) ? others : [...others, name] });
  };
  return (
    <section aria-label="Fetching him" className="card">
      <h2 className="mb-2 text-xl">Fetching him</h2>
      <button type="button" className="button mb-3 min-h-16 w-full text-xl" onClick={press}>
        <Timer size={24} aria-hidden="true" />
        {watchFrom === null ? "Start the watch" : "He is caught"}
        {seconds !== null && <span className="tabular-nums">{clockOf(seconds)}</span>}
      </button>
      <div role="group" aria-label="Caught" className="mb-3 flex flex-wrap gap-2">
        {CATCHES.map((how) => (
          <button
            key={how}
            type="button"
            aria-pressed={card.caught === how}
            className={CHIP}
            onClick={() => onChange({ caught: card.caught === how ? "" : how })}
          >
            {say(how)}
          </button>
        ))}
      </div>
      <div role="group" aria-label="His state" className="flex flex-wrap gap-2">
        {[...STATES, ...COMPANIES].map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={card.state.includes(name)}
            className={CHIP}
            onClick={() => toggle(name)}
          >
            {say(name)}
          </button>
        ))}
      </div>
    </section>
  );
}

const isCompany = (name: string): boolean => (COMPANIES as readonly string[]).includes(name);
