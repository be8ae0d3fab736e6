import { Check, X } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { OutingView, YardView } from "@still-pine/contract/http";
import { findStep, isUnknown, sidesOf } from "@still-pine/core/programs";
import { isReached, isSaidWhy, lineFor, tallyOf } from "@still-pine/core/outing";
import { eventTypeOf, isAsk, type RecordEvent } from "@still-pine/core/record";
import { sideInWords, stepName } from "@still-pine/core/readiness/words";
import { useYardQuery } from "../../api";
import { EntryForm } from "../../entries/entry-form";
import { dayOf, timeIn } from "../../parts/days";
import { NoDataYet } from "../../parts/page-state";
import type { KeptOuting } from "../../outbox/kept";
import { withPlace } from "../../pen/words";
import { lineInWords } from "../brief/brief-words";
import { AddMissed } from "./add-missed";
import { AfterMishap } from "./after-mishap";
import { EntryEditor } from "./entry-editor";
import { ForgottenWatches } from "./forgotten-watch";
import { isShown, Timeline } from "./timeline";
import { SeenTwice } from "./seen-twice";
import { useReviewedOuting, type ReviewedOuting } from "../../writing/reviewed-outing";
import { GaitTable } from "./gait-table";
import { Against } from "./against";
import { Links } from "./links";
import { NextTime } from "./next-time";

/** After coming out: the outing in time, taps fixed, what changed, what to start with next. Two minutes are enough for it. */
export function ReviewPage() {
  const { horse = "", outing = "" } = useParams();
  const { data, error: noYard } = useYardQuery();
  const { reviewed, kept, view, error, isSent, refused, unkept, add, addAll, retry } = useReviewedOuting(horse, outing);
  const [selected, setSelected] = useState<string | null>(null);
  const yard = data ?? (kept && asKept(kept));
  if (!reviewed || !yard) return <NoDataYet what="the outing" error={error ?? noYard} retry={retry} />;
  const { plan, events } = reviewed;
  const chosen = events.find(({ id }) => id === selected);
  const correct = (id: string, change: { void: true } | { with: Record<string, unknown> }): void =>
    void add({ type: "correction", replaces: id, ...change });
  const drop = (id: string): void => {
    const shown = events.filter(isShown);
    const at = shown.findIndex((one) => one.id === id);
    setSelected((shown[at + 1] ?? shown[at - 1])?.id ?? null);
    correct(id, { void: true });
  };
  const start = Date.parse(plan.startedAt);
  const name = view?.horse.name ?? kept?.horseName ?? "";
  const minutes = Math.round((reviewed.endedAt - start) / 60_000);
  return (
    <div className="mx-auto max-w-5xl">
      <title>{`${name}, review · Still Pine`}</title>
      <p>
        <Link className="link" to={`/horses/${encodeURIComponent(horse)}`}>
          {name || "The horse"}
        </Link>
      </p>
      <h1 className="text-3xl">Coming out</h1>
      <p className="mb-4 text-faint">
        {timeIn(yard.timeZone, plan.startedAt)}–{timeIn(yard.timeZone, new Date(reviewed.endedAt).toISOString())},{" "}
        {minutes} min · {events.filter(({ type }) => type === "ask").length} asks
        {reviewed.unended && " · nobody ended it: it was closed by itself with its last entry"}
      </p>
      {isSent === false && (
        <p role="status" className="mb-4 rounded-xl border-2 border-resin bg-sheet p-3">
          Everything is kept on this device. The server is not reached; until it is, the verdicts are this device's own.{" "}
          <button type="button" className="link" onClick={retry}>
            Try now
          </button>
        </p>
      )}
      {refused.length > 0 && (
        <div role="alert" className="mb-4 rounded-xl border-2 border-clay bg-sheet p-3">
          <p className="font-bold text-clay">Some entries were not taken; they stay on this device.</p>
          <ul className="list-disc pl-5">
            {refused.map((why) => (
              <li key={why}>{why}</li>
            ))}
          </ul>
        </div>
      )}
      {unkept && (
        <p role="alert" className="mb-4 rounded-xl border-2 border-clay bg-sheet p-3 font-semibold text-clay">
          The last change was neither kept nor sent: this device is full and the server is not reached. Free some room
          and say it again.
        </p>
      )}
      <ToTell reviewed={reviewed} yard={yard} onCorrect={(id, change) => correct(id, { with: change })} />
      <ForgottenWatches
        reviewed={reviewed}
        words={yard.words}
        onAdd={(body, at) => void add(body, at)}
        onStrike={(id) => correct(id, { void: true })}
      />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
        <Timeline reviewed={reviewed} words={yard.words} selected={selected} onSelect={setSelected} onDrop={drop} />
        {chosen && (
          <EntryEditor
            event={chosen}
            startedAt={start}
            program={plan.program}
            yard={yard}
            by={view?.recorders[chosen.device ?? ""]}
            alike={alikeOf(chosen, events)}
            onCorrect={(change) => correct(chosen.id, { with: change })}
            onCorrectAll={(ids, change) =>
              void addAll(ids.map((replaces) => ({ type: "correction", replaces, with: change })))
            }
            onDrop={() => drop(chosen.id)}
          />
        )}
        <div className="grid items-start gap-4 lg:grid-cols-2">
          <Lines reviewed={reviewed} yard={yard} />
          <Changes view={view} isSent={isSent} isJudged={!isUnknown(plan.program)} />
        </div>
        <Against reviewed={reviewed} yard={yard} />
        <Links reviewed={reviewed} yard={yard} />
        <GaitTable reviewed={reviewed} />
        <SeenTwice reviewed={reviewed} yard={yard} recorders={view?.recorders ?? {}} onStrike={drop} />
        <NextTime reviewed={reviewed} yard={yard} onSave={(body) => void add(body)} />
        <AddMissed reviewed={reviewed} words={yard.words} onAdd={(body, at) => void add(body, at)} />
        <StruckOut reviewed={reviewed} yard={yard} onBack={(id) => correct(id, { void: true })} />
      </div>
      <AfterMishap reviewed={reviewed} horse={horse} />
      <div className="mt-4 flex flex-wrap gap-2">
        {reviewed.events.some(({ type }) => type === "check-up") && (
          <Link className="button button-main" to={`/horses/${encodeURIComponent(horse)}/check-up`}>
            What the check-up found
          </Link>
        )}
        <Link className="button button-main" to={`/horses/${encodeURIComponent(horse)}`}>
          Done
        </Link>
        <Link className="button" to={`/horses/${encodeURIComponent(horse)}/outings/${encodeURIComponent(outing)}`}>
          All entries
        </Link>
      </div>
    </div>
  );
}

/** Ids of the asks of the same exercise and side, this one among them; none for anything else. */
function alikeOf(chosen: RecordEvent, events: readonly RecordEvent[]): string[] {
  if (!isAsk(chosen)) return [];
  const { step, side, part } = chosen;
  const isLeg = part === "fore" || part === "hind";
  return events.flatMap((one) =>
    isAsk(one) && one.step === step && one.side === side && (!isLeg || one.part === part) ? [one.id] : [],
  );
}

/** What is asked of a mishap or a fright; the rest can be said of the chosen entry. */
const TOLD = new Set(["kind", "severity", "personHurt", "after", "thing", "held", "reason"]);

/** The yard as far as the device knows it, while the server is not reached. */
const asKept = ({ timeZone, words, startedAt }: KeptOuting): YardView => ({
  name: "",
  timeZone,
  words,
  units: "metric",
  version: 0,
  today: dayOf(timeZone, startedAt),
  places: [],
  people: [],
});

interface ToTellProps {
  reviewed: ReviewedOuting;
  yard: YardView;
  onCorrect: (id: string, change: Record<string, unknown>) => void;
}

/** What one tap in the pen left open: how bad a mishap was, at what he started. */
function ToTell({ reviewed, yard, onCorrect }: ToTellProps) {
  const open = reviewed.events.filter(
    (event) =>
      (event.type === "mishap" && event.toTell === true) ||
      (event.type === "startle" && event.thing === undefined) ||
      (event.type === "against-gate" && !isSaidWhy(reviewed.state, event.gate)),
  );
  // Why a gate was passed is said once for all that was worked behind it.
  const gates = new Set<unknown>();
  const once = open.filter(
    (event) => event.type !== "against-gate" || (!gates.has(event["gate"]) && gates.add(event["gate"])),
  );
  if (open.length === 0) return null;
  return (
    <section aria-label="Still to tell" className="mb-4 grid grid-cols-[minmax(0,1fr)] gap-3">
      {once.map((event) => {
        const type = eventTypeOf(event.type);
        if (!type) return null;
        const fields = type.fields.filter(({ name }) => TOLD.has(name));
        return (
          <div key={event.id} className="card border-2 border-clay">
            <h2 className="mb-2 text-xl">{withPlace(event, reviewed.plan.program, yard.words)}: still to tell</h2>
            {event.type === "mishap" && event.personHurt && (
              <p className="mb-2 font-semibold text-clay">
                See to the person first; a knock on the head or a kick to the body is for a doctor. Have the horse
                looked over by a vet.
              </p>
            )}
            <EntryForm
              type={{ ...type, fields }}
              before={{ ...event }}
              given={{ ...event }}
              program={reviewed.plan.program}
              yard={yard}
              button="That is how it was"
              onSave={(changed) =>
                onCorrect(event.id, { ...changed, ...(event.type === "mishap" ? { toTell: null } : {}) })
              }
            />
          </div>
        );
      })}
    </section>
  );
}

/** Every exercise with its line, its sides, and whether it came to it. */
function Lines({ reviewed: { plan, state, endedAt }, yard }: { reviewed: ReviewedOuting; yard: YardView }) {
  const planned = plan.exercises.map(({ step }) => step);
  const isTakenUp = (step: string): boolean => state.exercises[step] !== undefined;
  const steps = [...new Set([...planned.filter(isTakenUp), ...Object.keys(state.exercises)])];
  const left = planned.filter((step) => !isTakenUp(step)).map((step) => stepName(plan.program, step, yard.words));
  const spurts = [...state.spurts, ...(state.spurt ? [{ ...state.spurt, to: endedAt }] : [])];
  return (
    <section aria-label="Finish lines" className="card">
      <h2 className="mb-1 text-xl">Finish lines</h2>
      <table className="w-full text-left text-[15px]">
        <thead>
          <tr className="text-sm text-faint">
            {["Exercise", "Side", "Good", "Asks", "Min"].map((title) => (
              <th key={title} scope="col" className="pr-3">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {steps.flatMap((id) => {
            const step = findStep(plan.program, id);
            if (!step) return [];
            const line = lineFor(state, id);
            return sidesOf(step).map((side, index) => {
              const { good, asks } = tallyOf(state, id, side);
              const ms = spurts
                .filter((one) => one.step === id && one.side === side)
                .reduce((sum, one) => sum + one.to - one.from, 0);
              return (
                <tr key={`${id} ${side}`} className={index === 0 ? "border-t border-line/60" : undefined}>
                  {index === 0 && (
                    <th scope="rowgroup" rowSpan={sidesOf(step).length} className="pr-3 align-top font-normal">
                      {stepName(plan.program, id, yard.words)}
                      <span className="block text-sm text-faint">{lineInWords(line, step, plan.program)}</span>
                    </th>
                  )}
                  <td className="pr-3">{sideInWords(side).replace(" side", "") || "–"}</td>
                  <td className="pr-3 whitespace-nowrap">
                    <span className="inline-flex items-center gap-1">
                      {isReached(state, id, side) ? (
                        <Check size={18} strokeWidth={3} className="text-pine" aria-label="reached" />
                      ) : (
                        <X size={16} className="text-faint" aria-label="not reached" />
                      )}
                      {good}
                    </span>
                  </td>
                  <td className="pr-3">{asks}</td>
                  <td>{(ms / 60_000).toFixed(1)}</td>
                </tr>
              );
            });
          })}
        </tbody>
      </table>
      {left.length > 0 && <p className="mt-1 text-sm text-faint">Not taken up: {left.join(", ")}.</p>}
    </section>
  );
}

/** What the judge sees anew, before and after, and why it is not more. */
function Changes({
  view,
  isSent,
  isJudged,
}: {
  view: OutingView | undefined;
  isSent: boolean | null;
  isJudged: boolean;
}) {
  return (
    <section role="status" aria-label="Verdicts" className="card">
      <h2 className="mb-1 text-xl">In the judge's eyes</h2>
      {!isJudged ? (
        <p>His program is not here: nothing is judged until it is, or he goes by another one.</p>
      ) : !view ? (
        <p className="text-faint">
          {isSent === false ? "This device does not know enough of him to judge by itself." : "Asking the judge …"}
        </p>
      ) : view.changes.length === 0 ? (
        <p>No word changed; the evidence did.</p>
      ) : (
        <ul className="grid gap-2">
          {view.changes.map(({ change, why }) => (
            <li key={change.text}>
              <span className={change.side ? undefined : "font-bold"}>
                {change.better ? "↑" : "↓"} {change.text}
              </span>
              {why.map((reason) => (
                <span key={reason} className="block text-sm text-faint">
                  {reason}
                </span>
              ))}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

interface StruckOutProps {
  reviewed: ReviewedOuting;
  yard: YardView;
  onBack: (correction: string) => void;
}

/** What was dropped here or undone in the pen; each can come back. */
function StruckOut({ reviewed, yard, onBack }: StruckOutProps) {
  const { struckOut, plan, strikes } = reviewed;
  if (struckOut.length === 0) return null;
  return (
    <details className="card">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine">
        {struckOut.length} struck out; they stay in the record
      </summary>
      <ul>
        {struckOut.map((event) => {
          const by = strikes.get(event.id);
          return (
            <li key={event.id} className="flex items-center justify-between gap-2 border-b border-line/60 py-1">
              <s>{withPlace(event, plan.program, yard.words)}</s>
              {by !== undefined && (
                <button type="button" className="button button-small" onClick={() => onBack(by)}>
                  Bring back
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </details>
  );
}
