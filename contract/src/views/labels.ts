import { asEvent, is, type RecordEvent, EVENT_TYPES } from "@still-pine/core/record";

/** People and places are rows; events name them by id, so that a person can be made nameless without touching the record. */
export type LabelKind = "place" | "person";

export type Labels = Record<LabelKind, Map<string, string>>;

/** Which fields of events name a place or a person. */
const LABEL_FIELDS: ReadonlyMap<string, LabelKind> = new Map(
  EVENT_TYPES.flatMap(({ fields }) => fields.flatMap(({ name, is }) => (is.kind === "label" ? [[name, is.of]] : []))),
);
const LABELLED: ReadonlySet<string> = new Set([
  "correction",
  ...EVENT_TYPES.filter(({ fields }) => fields.some(({ name }) => LABEL_FIELDS.has(name))).map(({ type }) => type),
]);

type Change = (kind: LabelKind, value: string) => string;

/** An event with its labels of places and people changed; the same event where it has none. */
export function changeLabels(event: RecordEvent, change: Change): RecordEvent {
  if (!LABELLED.has(event.type)) return event;
  const changed = asEvent(changeFields({ ...event }, change));
  return is(changed, "correction") && changed.with ? { ...changed, with: changeFields(changed.with, change) } : changed;
}

function changeFields(fields: Record<string, unknown>, change: Change): Record<string, unknown> {
  let changed: Record<string, unknown> | null = null;
  for (const [name, kind] of LABEL_FIELDS) {
    const value = fields[name];
    if (typeof value === "string") (changed ??= { ...fields })[name] = change(kind, value);
  }
  return changed ?? fields;
}

/** Events as a person reads them: labels for ids. */
export const withLabels = (event: RecordEvent, labels: Labels): RecordEvent =>
  changeLabels(event, (kind, id) => labels[kind].get(id) ?? id);
