import { zodResolver } from "@hookform/resolvers/zod";
import { useState } from "react";
import { Controller, useForm, useWatch } from "react-hook-form";
import { v7 as newId } from "uuid";
import { z } from "zod";
import { horseFieldsSchema, type HorseFields, type StringHorse } from "@still-pine/contract/http";
import { PRECISIONS, SEXES, type Precision } from "@still-pine/core/record";
import { useAddHorseMutation, useChangeHorseMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { ConflictChooser } from "../../parts/conflict-chooser";
import { Field } from "../../parts/field";
import { Modal } from "../../parts/modal";
import { ProblemNote } from "../../parts/page-state";

const PRECISION_WORDS: Record<Precision, string> = { day: "The day", month: "The month", year: "Only the year" };
const INPUTS = {
  day: { type: "date", length: 10 },
  month: { type: "month", length: 7 },
  year: { type: "number", length: 4 },
} as const;

const EARLIEST_YEAR = 1980;

/** What is typed is as exact as what is known; the rest of the day is filled in: "2023" becomes "2023-01-01". */
const wholeDay = (typed: string): string => `${typed}${"-01-01".slice(0, Math.max(0, 10 - typed.length))}`;

const isFoalingDay = (day: string): boolean =>
  horseFieldsSchema.shape.foaled.safeParse(day).success && Number(day.slice(0, 4)) >= EARLIEST_YEAR;

const formSchema = z.object({
  name: z.string().trim().min(1, "Give the horse a name.").max(120, "At most 120 letters."),
  foaled: z
    .string()
    .transform(wholeDay)
    .refine(isFoalingDay, { error: `Say when it was foaled, from ${EARLIEST_YEAR} on.` }),
  foaledPrecision: z.literal(PRECISIONS),
  sex: z.literal(SEXES),
});

interface HorseFormProps {
  /** Null for a new horse. */
  horse: StringHorse | null;
  today: string;
  onClose: () => void;
}

export function HorseForm({ horse, today, onClose }: HorseFormProps) {
  const [id] = useState(() => horse?.id ?? newId());
  const version = horse?.version ?? 1;
  const [add, adding] = useAddHorseMutation();
  const [change, changing] = useChangeHorseMutation();
  const precisionAtFirst = horse?.foaledPrecision ?? "year";
  const { register, handleSubmit, getValues, control, setError, setValue, formState } = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: {
      name: horse?.name ?? "",
      foaled: horse?.foaled.slice(0, INPUTS[precisionAtFirst].length) ?? "",
      foaledPrecision: precisionAtFirst,
      sex: horse?.sex ?? "mare",
    },
  });
  const input = INPUTS[useWatch({ control, name: "foaledPrecision" })];
  const failed = adding.error ?? changing.error;
  const problem = failed ? problemOf(failed) : null;
  const current = problem?.["current"] as (HorseFields & { version: number }) | undefined;

  const save = async (fields: HorseFields): Promise<void> => {
    if (fields.foaled > today) {
      setError("foaled", { message: "That day has not come yet." });
      return;
    }
    const result = horse ? await change({ id, version, fields }) : await add({ id, ...fields });
    if (!result.error) onClose();
  };
  /** Saved as chosen between the two; the form then stands as it was saved. */
  const saveChosen = async (chosen: Record<string, unknown>): Promise<void> => {
    if (!current) return;
    const result = await change({ id, version: current.version, fields: horseFieldsSchema.parse(chosen) });
    if (!result.error) onClose();
  };

  return (
    <Modal open onOpenChange={(open) => !open && onClose()} title={horse ? horse.name : "New horse"}>
      <form noValidate onSubmit={(event) => void handleSubmit(save)(event)} className="grid gap-4">
        <Field id="name" label="Name" error={formState.errors.name?.message}>
          <input
            id="name"
            className="field"
            autoComplete="off"
            aria-describedby="name-note"
            aria-invalid={!!formState.errors.name}
            {...register("name")}
          />
        </Field>
        <fieldset>
          <legend className="mb-1 font-semibold">What is known of its foaling</legend>
          <div className="flex flex-wrap gap-2">
            {PRECISIONS.toReversed().map((one) => (
              <label key={one} className="chip has-checked:border-pine has-checked:bg-pine has-checked:text-on-pine">
                <input
                  type="radio"
                  value={one}
                  className="accent-pine"
                  {...register("foaledPrecision", {
                    onChange: () => setValue("foaled", getValues("foaled").slice(0, INPUTS[one].length)),
                  })}
                />
                {PRECISION_WORDS[one]}
              </label>
            ))}
          </div>
        </fieldset>
        <Field
          id="foaled"
          label="Foaled"
          hint="Where it is guessed, the younger end counts."
          error={formState.errors.foaled?.message}
        >
          <Controller
            control={control}
            name="foaled"
            render={({ field }) => (
              <input
                {...field}
                id="foaled"
                key={input.type}
                type={input.type}
                className="field"
                aria-describedby="foaled-note"
                aria-invalid={!!formState.errors.foaled}
                placeholder={input.type === "number" ? "2023" : undefined}
              />
            )}
          />
        </Field>
        <Field id="sex" label="Sex">
          <select id="sex" className="field" {...register("sex")}>
            {SEXES.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </Field>
        {problem && (
          <ProblemNote problem={problem}>
            {current && problem["yours"] !== undefined && (
              <ConflictChooser
                key={current.version}
                labels={{ name: "Name", foaled: "Foaled", foaledPrecision: "Known of it", sex: "Sex" }}
                opened={{ ...horse }}
                current={current}
                yours={problem["yours"] as Record<string, unknown>}
                onChoose={(chosen) => void saveChosen(chosen)}
              />
            )}
          </ProblemNote>
        )}
        <button type="submit" className="button button-main" disabled={adding.isLoading || changing.isLoading}>
          {horse ? "Save" : "Add to the string"}
        </button>
      </form>
    </Modal>
  );
}
