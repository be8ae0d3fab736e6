import { EVENT_TYPES, HEAD_FIELDS, PROGRAM_FIELDS, type Field, type FieldIs } from "@still-pine/core/record";

const UNITS = { mass: "kg", length: "cm", height: "cm", distance: "m", temperature: "°C" } as const;

/** What a field takes, in words of the documentation. */
export function limitsInWords(is: FieldIs): string {
  switch (is.kind) {
    case "choice":
      return is.values.length > 12
        ? is.values.map(String).join(", ")
        : is.values.map((value) => `\`${value}\``).join(", ");
    case "whole":
      return `whole number ${is.least}–${is.most}${is.unit ? ` ${is.unit}` : ""}`;
    case "number":
      return `${is.least}–${is.most}${is.unit ? ` ${is.unit}` : ""}`;
    case "measure":
      return `${is.least}–${is.most} ${UNITS[is.quantity]}`;
    case "text":
      return `text, at most ${is.most} characters`;
    case "texts":
      return `list of at most ${is.most} texts of at most ${is.each} characters`;
    case "label":
      return `label of a ${is.of}, at most 120 characters`;
    case "yes-no":
      return "`true` or `false`";
    case "day":
      return "a day, `YYYY-MM-DD`";
    case "instant":
      return "an instant, ISO 8601";
    case "step":
      return "step id";
    case "rung":
      return "id of a rung of the step's ladder";
    case "id":
      return "id";
    case "true":
      return "`true`";
    case "fields":
      return "object of fields";
    default:
      return is satisfies never;
  }
}

const fieldLine = ({ name, needed, says, is }: Field): string =>
  `| \`${name}\`${needed ? "" : " ?"} | ${limitsInWords(is)} | ${says} |`;

const table = (fields: readonly Field[]): string =>
  ["| field | takes | |", "| --- | --- | --- |", ...fields.map(fieldLine)].join("\n");

/** The part of docs/record-format.md that names every type and field. */
export function typesInMarkdown(): string {
  const types = EVENT_TYPES.map(({ type, of, says, fields }) => {
    const where = { outing: "in an outing", horse: "of the horse", either: "in an outing or of the horse" }[of];
    const own = type === "outing-start" || type === "head" ? "The fields of the outing's head." : "";
    const rest = type === "outing-start" ? [] : fields.filter((field) => !HEAD_FIELDS.includes(field));
    return [`### \`${type}\``, `${says} Stands ${where}. ${own}`.trim(), rest.length > 0 ? table(rest) : ""]
      .filter(Boolean)
      .join("\n\n");
  });
  return [
    "## The outing's head",
    "All may be left out. `?` marks what may be left out in every table below.",
    table([...HEAD_FIELDS, ...PROGRAM_FIELDS]),
    "## Types",
    ...types,
  ].join("\n\n");
}
