import { Archive, Smartphone } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { YardFields, YardView } from "@still-pine/contract/http";
import { linkTo } from "../../ask";
import { useChangeYardMutation, useYardQuery } from "../../api";
import { problemOf } from "../../parts/problem";
import { ConflictChooser } from "../../parts/conflict-chooser";
import { Field } from "../../parts/field";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { BringIn } from "../string/bring-in";
import { BringInCsv } from "./bring-in-csv";
import { LabelList } from "./label-list";
import { OwnDays } from "./own-days";

/** The yard: its settings, its places and people, its record out and in. */
export function YardPage() {
  const { data, error, refetch } = useYardQuery();
  if (!data) return <NoDataYet what="the yard" error={error} retry={() => void refetch()} />;
  return (
    <>
      <title>Yard · Still Pine</title>
      <h1 className="mb-4 text-3xl">Yard</h1>
      <div className="grid items-start gap-5 lg:grid-cols-2">
        <Settings yard={data} />
        <section aria-label="The record out and in" className="card grid gap-3">
          <h2 className="text-xl">The record, out and in</h2>
          <p className="text-faint">
            The whole yard as one archive: every horse's record in the open format, with its photos and clips. It opens
            in any zip program, and comes in again here.
          </p>
          <div className="flex flex-wrap gap-2">
            <a className="button" href={linkTo<"yardArchive">("/archive", {})} download>
              <Archive size={18} aria-hidden="true" /> Export the yard
            </a>
            <BringIn label="Bring in an archive" />
          </div>
          <BringInCsv />
        </section>
        <section aria-label="Phones and waiting entries" className="card grid gap-3">
          <h2 className="text-xl">Phones</h2>
          <p className="text-faint">
            A phone in the pen records without a network and sends when it is back. Here it is let in, and shut out.
          </p>
          <div className="flex flex-wrap gap-2">
            <Link className="button" to="/phones">
              <Smartphone size={18} aria-hidden="true" /> Phones
            </Link>
            <Link className="button" to="/waiting">
              Waiting entries
            </Link>
          </div>
        </section>
        <LabelList kind="places" title="Places" />
        <LabelList kind="people" title="People" />
        <OwnDays />
      </div>
    </>
  );
}

const LABELS = { name: "Name", timeZone: "Time zone", units: "Units", words: "Words" } as const;

function Settings({ yard }: { yard: YardView }) {
  const { name, timeZone, units, words } = yard;
  // As they were opened: somebody else may save in between, and what is typed here must not go with that.
  const [{ version, ...opened }, setOpened] = useState<YardFields & { version: number }>(yard);
  const [fields, setFields] = useState<YardFields>({ name, timeZone, units, words });
  const [change, { error, isLoading, isSuccess }] = useChangeYardMutation();
  const problem = error ? problemOf(error) : null;
  const current = problem?.["current"] as (YardFields & { version: number }) | undefined;
  const save = async (seen: number, wanted: YardFields): Promise<void> => {
    const result = await change({ version: seen, fields: wanted });
    if (!result.data) return;
    setOpened({ ...wanted, version: result.data.version });
    setFields(wanted);
  };
  const set = (part: Partial<YardFields>): void => setFields((now) => ({ ...now, ...part }));
  const wrong = (path: string): string | undefined => {
    const found = problem?.errors?.find((one) => one.path === path);
    return found && `Expected ${found.expected}.`;
  };
  return (
    <section aria-label="Settings" className="card">
      <h2 className="mb-3 text-xl">Settings</h2>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(event) => {
          event.preventDefault();
          void save(version, fields);
        }}
      >
        <Field id="yard-name" label={LABELS.name} error={wrong("name")}>
          <input
            id="yard-name"
            className="field"
            maxLength={120}
            value={fields.name}
            aria-describedby="yard-name-note"
            onChange={(event) => set({ name: event.target.value })}
          />
        </Field>
        <Field id="yard-zone" label={LABELS.timeZone} hint="Days are counted in it." error={wrong("timeZone")}>
          <input
            id="yard-zone"
            className="field"
            list="zones"
            value={fields.timeZone}
            aria-describedby="yard-zone-note"
            onChange={(event) => set({ timeZone: event.target.value })}
          />
          <datalist id="zones">
            {Intl.supportedValuesOf("timeZone").map((zone) => (
              <option key={zone} value={zone} />
            ))}
          </datalist>
        </Field>
        <Field id="yard-units" label={LABELS.units} hint="Heights are in hands in both; what is typed stays as typed.">
          <select
            id="yard-units"
            className="field"
            value={fields.units}
            aria-describedby="yard-units-note"
            onChange={(event) => set({ units: event.target.value as YardFields["units"] })}
          >
            <option value="metric">metric: kg, cm, m, °C</option>
            <option value="imperial">imperial: lb, in, ft, °F</option>
          </select>
        </Field>
        <Field id="yard-words" label={LABELS.words} hint="Blanket or rug, saddle pad or numnah, trailer or float.">
          <select
            id="yard-words"
            className="field"
            value={fields.words}
            aria-describedby="yard-words-note"
            onChange={(event) => set({ words: event.target.value as YardFields["words"] })}
          >
            <option value="american">American</option>
            <option value="british">British and Irish</option>
          </select>
        </Field>
        {problem && (
          <div className="sm:col-span-2">
            <ProblemNote problem={problem}>
              {current && (
                <ConflictChooser
                  key={current.version}
                  labels={LABELS}
                  opened={opened}
                  current={current}
                  yours={fields}
                  onChoose={(chosen) => void save(current.version, chosen as unknown as YardFields)}
                />
              )}
            </ProblemNote>
          </div>
        )}
        <div className="flex items-center gap-3 sm:col-span-2">
          <button type="submit" className="button button-main" disabled={isLoading}>
            Save the settings
          </button>
          {isSuccess && <span role="status">Saved.</span>}
        </div>
      </form>
    </section>
  );
}
