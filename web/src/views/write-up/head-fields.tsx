import { HEAD_FIELDS } from "@still-pine/core/record";
import type { StringView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { EntryFields } from "../../entries/entry-fields";
import type { FormErrors } from "../../entries/form-values";
import { Field } from "../../parts/field";
import { LabelField } from "../../parts/label-field";
import type { Draft, HeadErrors, HeadField } from "../../writing/draft";

interface HeadFieldsProps {
  draft: Draft;
  errors: HeadErrors;
  string: StringView;
  onChange: (field: HeadField, value: string) => void;
  /** What is wrong with the rest of the head, by field. */
  moreErrors: FormErrors;
  onMore: (field: string, value: string) => void;
}

/** The rest of the head: seldom all of it, so behind one press. */
export const MORE_OF_HEAD = HEAD_FIELDS.filter(({ name }) => name !== "place" && name !== "handler");

const TEXTS = [
  { field: "day", label: "Day", type: "date" },
  { field: "start", label: "Start", type: "time" },
  { field: "end", label: "End", type: "time" },
] as const;

/** Which horse, when, where and with whom. Places and people once named are offered again. */
export function HeadFields({ draft, errors, string, onChange, moreErrors, onMore }: HeadFieldsProps) {
  return (
    <section aria-label="The outing" className="card grid grid-cols-2 gap-3 sm:grid-cols-6">
      <div className="col-span-2">
        <Field id="horse" label="Horse" error={errors.horse}>
          <select
            id="horse"
            className="field"
            value={draft.horse}
            aria-describedby="horse-note"
            onChange={(event) => onChange("horse", event.target.value)}
          >
            <option value="">choose …</option>
            {string.horses.map((horse) => (
              <option key={horse.id} value={horse.id}>
                {horse.name}
              </option>
            ))}
          </select>
        </Field>
      </div>
      {TEXTS.map(({ field, label, type }) => (
        <div key={field} className={field === "day" ? "col-span-2" : "col-span-1"}>
          <Field id={field} label={label} error={errors[field]}>
            <input
              id={field}
              type={type}
              className="field"
              value={draft[field]}
              aria-describedby={`${field}-note`}
              aria-invalid={!!errors[field]}
              onChange={(event) => onChange(field, event.target.value)}
            />
          </Field>
        </div>
      ))}
      {(
        [
          ["place", "Place", string.yard.places],
          ["handler", "Handler", string.yard.people],
        ] as const
      ).map(([field, label, known]) => (
        <div key={field} className="col-span-2 sm:col-span-3">
          <LabelField
            id={field}
            label={label}
            value={draft[field]}
            known={known}
            error={errors[field]}
            onChange={(value) => onChange(field, value)}
          />
        </div>
      ))}
      <details className="col-span-2 sm:col-span-6" open={Object.keys(moreErrors).length > 0 || undefined}>
        <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine">
          More: helper, gear, weather, footing, how he was caught, his state
        </summary>
        <EntryFields
          fields={MORE_OF_HEAD}
          values={draft.head}
          errors={moreErrors}
          program={loosePenStart}
          yard={string.yard}
          onChange={onMore}
        />
      </details>
    </section>
  );
}
