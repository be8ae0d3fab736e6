import { ClipboardCheck, ShieldAlert } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { CheckUpView } from "@still-pine/contract/http";
import { expectedAsks } from "@still-pine/core/checkup";
import { findStep, isUnknown, STAGES, type Program, type Stage } from "@still-pine/core/programs";
import { textsOf } from "@still-pine/core/programs/texts";
import { STAGE_WORDS, stepName } from "@still-pine/core/readiness";
import { ageOn } from "@still-pine/core/record";
import { capsFor } from "@still-pine/core/workload";
import { ProgramNotHere } from "../../entries/program-not-here";
import { useProgramFor } from "../../book/use-book";
import { useCheckUpQuery } from "../../api";
import { LabelField } from "../../parts/label-field";
import { NoDataYet } from "../../parts/page-state";
import { beginOuting, ownProgram } from "../../pen/begin";
import { Result } from "./result";

/** The card of a check-up: what is tested, in which order, with how many asks; and what the last one found. */
export function CheckUpPage() {
  const programFor = useProgramFor();
  const { horse = "" } = useParams();
  const [query, setQuery] = useSearchParams();
  const steps = query.get("steps")?.split(",").filter(Boolean);
  const upTo = STAGES.find((stage) => stage === query.get("upTo"));
  const { data, error, refetch } = useCheckUpQuery(
    { horse, ...(steps ? { steps } : upTo ? { upTo } : {}) },
    { refetchOnMountOrArgChange: true },
  );
  if (!data) return <NoDataYet what="the check-up" error={error} retry={() => void refetch()} />;
  const program = programFor(data.horse);
  const [latest, former] = data.results;
  const { words } = data.yard;
  return (
    <div className="mx-auto max-w-5xl">
      <title>{`${data.horse.name}, check-up · Still Pine`}</title>
      <p>
        <Link className="link" to={`/horses/${encodeURIComponent(horse)}`}>
          {data.horse.name}
        </Link>
      </p>
      <h1 className="mb-1 text-3xl">Check-up</h1>
      <p className="mb-4 max-w-3xl text-faint">
        Tests, not lessons: each step once or twice a side, in order, stopping where it fails. What comes clean counts
        for going on, never for a gate.
      </p>
      {latest && (
        <Result
          result={latest}
          former={former ?? null}
          program={program}
          words={words}
          horse={data.horse.id}
          today={data.yard.today}
        />
      )}
      <div className="mt-4 grid items-start gap-4 lg:grid-cols-[1fr_22rem]">
        {isUnknown(program) ? <ProgramNotHere horse={data.horse} /> : <Plan view={data} />}
        <div className="grid gap-4">
          <section aria-label="What to test" className="card grid gap-2">
            {data.upTo === null ? (
              <>
                <p>Just some steps, with what they rest on and he has not shown.</p>
                <button type="button" className="button" onClick={() => setQuery({}, { replace: true })}>
                  Test the whole road instead
                </button>
              </>
            ) : (
              <label className="grid gap-1">
                As far as
                <select
                  className="field"
                  value={data.upTo}
                  onChange={(event) => setQuery({ upTo: event.target.value }, { replace: true })}
                >
                  {data.stages.map((stage) => (
                    <option key={stage} value={stage}>
                      {STAGE_WORDS[stage]}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <p>
              <b className="text-2xl">{Math.round(data.plan.expected)}</b> asks expected, {data.plan.most} at the most.
              What one outing has no room for is another day's.
            </p>
          </section>
          <Begin view={data} />
        </div>
      </div>
    </div>
  );
}

/** Tests in their order, those of one stage that follow each other together. */
function inStages(
  program: Program,
  { plan: { tests } }: CheckUpView,
): { stage: Stage; first: number; tests: typeof tests }[] {
  const groups: { stage: Stage; first: number; tests: typeof tests }[] = [];
  tests.forEach((test, index) => {
    const stage = findStep(program, test.step)?.stage ?? "first-handling";
    const last = groups.at(-1);
    if (last?.stage === stage) last.tests.push(test);
    else groups.push({ stage, first: index + 1, tests: [test] });
  });
  return groups;
}

function Plan({ view }: { view: CheckUpView }) {
  const programFor = useProgramFor();
  const { plan, horse, yard } = view;
  const program = programFor(horse);
  const name = (id: string): string => stepName(program, id, yard.words);
  return (
    <section aria-label="In this order" className="card">
      <h2 className="mb-2 text-xl">In this order</h2>
      {plan.tests.length === 0 && <p>Nothing of it needs a test today.</p>}
      <div className="gap-6 sm:columns-2">
        {inStages(program, view).map(({ stage, first, tests }) => (
          <div key={first} className="mb-3 break-inside-avoid">
            <h3 className="font-bold">{STAGE_WORDS[stage]}</h3>
            <ol className="list-decimal pl-8" start={first}>
              {tests.map((test) => (
                <li key={test.step}>
                  {name(test.step)}
                  <span className="text-sm text-faint"> · {Math.round(expectedAsks(test))}</span>
                  {test.guarded && (
                    <ShieldAlert size={15} className="ml-1 inline text-resin" aria-label="all below it first" />
                  )}
                </li>
              ))}
            </ol>
          </div>
        ))}
      </div>
      <p className="text-sm text-faint">
        The number beside a step: asks expected.{" "}
        <ShieldAlert size={15} className="inline text-resin" aria-hidden="true" /> comes only after all it rests on came
        clean.
      </p>
      {plan.spared.length > 0 && (
        <details className="mt-3">
          <summary className="min-h-9 cursor-pointer py-1 text-pine">
            {plan.spared.length} need no test: something above them came clean lately
          </summary>
          <ul className="text-sm">
            {plan.spared.map(({ step, by }) => (
              <li key={step}>
                {name(step)} <span className="text-faint">by {name(by).toLowerCase()}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      {plan.heldBack.length > 0 && (
        <p className="mt-2 text-sm">Held by a person, and not asked: {plan.heldBack.map(name).join(", ")}.</p>
      )}
      {plan.tooYoung.length > 0 && (
        <p className="mt-2 text-sm">
          Too young for it by his program, and not asked: {plan.tooYoung.map(name).join(", ")}.
        </p>
      )}
    </section>
  );
}

/** Who, where, the cautions; then into the pen. */
function Begin({ view }: { view: CheckUpView }) {
  const programFor = useProgramFor();
  const { horse, yard, plan } = view;
  const navigate = useNavigate();
  const [place, setPlace] = useState(yard.places[0] ?? "");
  const [handler, setHandler] = useState(yard.people[0] ?? "");
  const [helper, setHelper] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const program = programFor(horse);
  const people = Math.max(1, ...plan.tests.map(({ step }) => findStep(program, step)?.people ?? 1));
  const isRidden = plan.tests.some(({ step }) => {
    const stage = findStep(program, step)?.stage;
    return stage === "riding" || stage === "schooling";
  });
  const gear = [...new Set(plan.tests.flatMap(({ step }) => textsOf(step)?.gear ?? []))];
  const go = async (): Promise<void> => {
    if (!place.trim() || !handler.trim()) {
      setTrouble(place.trim() ? "Say who handles him." : "Say where.");
      return;
    }
    try {
      const months = ageOn(horse.foaled, horse.foaledPrecision, yard.today).monthsAtLeast;
      const { workingMinutes, inHandMinutes } = capsFor(months);
      const outing = await beginOuting(
        {
          horse: horse.id,
          horseName: horse.name,
          program: horse.program,
          ...ownProgram(yard, horse.program),
          exercises: [],
          known: [],
          caps: { workingMinutes, inHandMinutes },
          timeZone: yard.timeZone,
          words: yard.words,
          checkUp: {
            tests: plan.tests,
            known: plan.known,
            spared: plan.spared.map(({ step }) => step),
            expected: plan.expected,
          },
        },
        { place: place.trim(), handler: handler.trim(), ...(helper.trim() ? { helper: helper.trim() } : {}) },
      );
      void navigate(`/pen/${encodeURIComponent(outing.id)}`);
    } catch {
      setTrouble("This device has no room for another outing. Free some, or write it up afterwards on another one.");
    }
  };
  return (
    <section aria-label="Into the pen" className="card grid gap-2">
      <ul className="grid gap-1 text-[15px]">
        <li>
          A horse nobody knows may do anything. At the shoulder and close, or well away; a way out; no rope round a
          hand.
        </li>
        <li>A miss is once more, the same, and then left. Never more pressure: it is a test.</li>
        <li>Tired or tight: end it there. The rest is another day's.</li>
        {people > 1 && <li>Some of it takes {people} people.</li>}
        {isRidden && (
          <li className="font-semibold text-clay">
            Ridden steps only with a helper, helmet and boots, and an instructor's word on an unknown horse.
          </li>
        )}
        <li className="text-faint">Vet, dentist and saddle fitter first where he is sore anywhere.</li>
      </ul>
      {gear.length > 0 && (
        <details className="text-sm">
          <summary className="min-h-8 cursor-pointer py-1 text-pine">Gear to lay ready: {gear.length} things</summary>
          {gear.join(", ")}.
        </details>
      )}
      <LabelField id="place" label="Place" value={place} known={yard.places} onChange={setPlace} />
      <LabelField id="handler" label="Handler" value={handler} known={yard.people} onChange={setHandler} />
      <LabelField id="helper" label="Helper" value={helper} known={yard.people} onChange={setHelper} />
      {trouble && (
        <p role="alert" className="font-semibold text-clay">
          {trouble}
        </p>
      )}
      <button
        type="button"
        className="button button-main min-h-16 text-xl"
        disabled={plan.tests.length === 0}
        onClick={() => void go()}
      >
        <ClipboardCheck size={22} aria-hidden="true" /> Into the pen
      </button>
    </section>
  );
}
