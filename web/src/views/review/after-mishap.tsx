import { Link } from "react-router";
import type { MishapEvent, HorseId } from "@still-pine/core/record";
import { TROUBLES } from "@still-pine/core/troubles";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

/** After a mishap: where to look, the body first. */
export function AfterMishap({ reviewed, horse }: { reviewed: ReviewedOuting; horse: HorseId }) {
  const mishaps = reviewed.events.filter(({ type }) => type === "mishap") as MishapEvent[];
  if (mishaps.length === 0) return null;
  const kinds = new Set<string>(mishaps.map(({ kind }) => kind));
  const troubles = TROUBLES.filter((trouble) => trouble.mishaps.some((kind) => kinds.has(kind)));
  const link = `/troubles?horse=${encodeURIComponent(horse)}`;
  return (
    <section aria-label="After a mishap" className="mt-4 rounded-xl border-2 border-clay bg-sheet p-4">
      <p>
        <b>Something could have hurt, or did.</b> Look at his body before it is a question of training; then at what
        lies under it.
      </p>
      <ul className="mt-2 flex flex-wrap gap-2">
        {troubles.map(({ id, name }) => (
          <li key={id}>
            <Link className="button" to={`${link}&trouble=${id}`}>
              Where to look: {name.toLowerCase()}
            </Link>
          </li>
        ))}
        {troubles.length === 0 && (
          <li>
            <Link className="button" to={link}>
              Where to look
            </Link>
          </li>
        )}
      </ul>
    </section>
  );
}
