import { measureInWords, parseMeasure, weightFromTape } from "@still-pine/core/body";
import type { YardView } from "@still-pine/contract/http";
import type { FormValues } from "./form-values";

interface TapeHintProps {
  values: FormValues;
  yard: YardView;
  onTake: (values: FormValues) => void;
}

/** What a tape says he weighs, where girth and length were measured and no weight was typed; one press takes it over. */
export function TapeHint({ values, yard, onTake }: TapeHintProps) {
  const girth = parseMeasure(values["girthCm"] ?? "", "length", yard.units);
  const length = parseMeasure(values["lengthCm"] ?? "", "length", yard.units);
  if (!girth || !length || values["weightKg"]) return null;
  const weight = measureInWords(weightFromTape(girth.si, length.si), "mass", yard.units);
  return (
    <p className="flex flex-wrap items-center gap-x-3 gap-y-2">
      By the tape a grown horse of this girth and length weighs about {weight}. A foal or yearling weighs otherwise: ask
      the vet before you dose by it.
      <button
        type="button"
        className="button button-small"
        onClick={() => onTake({ weightKg: weight, means: values["means"] || "tape" })}
      >
        Take {weight}
      </button>
    </p>
  );
}
