import type { Dialect, Step } from "@still-pine/core/programs";
import { inDialect } from "@still-pine/core/programs";
import { textsOf } from "@still-pine/core/programs/texts";
import { ENDS_WORDS } from "@still-pine/core/readiness";

/** What a step is, for someone who starts their first horse: it fits on a card. */
export function StepCard({ step, edition, words }: { step: Step; edition: number; words: Dialect }) {
  const texts = textsOf(step.id, edition);
  if (!texts) return null;
  const lines: [title: string, text: string][] = [
    ["Ends", ENDS_WORDS[step.ends]],
    ["Gear", `${texts.gear.join(", ")}.${step.people > 1 ? " It takes a second person." : ""}`],
    ["Practise first", texts.drill],
    ["Usual faults", texts.faults],
    ["Odd but normal", texts.odd],
    ["Worth later", texts.later],
  ];
  return (
    <section aria-label="The step" className="card">
      <p>{inDialect(texts.what, words)}</p>
      <p className="mt-2 border-l-4 border-resin pl-3 text-sm">
        <b>Mind: </b>
        {inDialect(texts.caution, words)}
      </p>
      <dl className="mt-3 grid gap-1.5 text-sm">
        {lines.map(([title, text]) => (
          <div key={title}>
            <dt className="inline font-bold">{title}: </dt>
            <dd className="inline">{inDialect(text, words)}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-2 text-xs text-faint">Also called: {texts.synonyms.join(", ")}.</p>
    </section>
  );
}
