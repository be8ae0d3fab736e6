import { Router } from "express";
import { ENDPOINTS } from "@still-pine/contract/http";
import { idSchema, OWN_PROGRAM, parseProgram, shown } from "@still-pine/contract/record";
import type { Program, ProgramFile } from "@still-pine/core/programs";
import { inTransaction } from "../../db/pool";
import { rebuildThoseBy } from "../../read-models/rebuild";
import { dropDraft, findDraft, publish, putDraft } from "../../store/programs";
import { programChanges } from "../../views/program-changes";
import { holdYard } from "../../store/yard";
import type { Context } from "../context";
import { changedMeanwhile, HttpProblem, notFound } from "../problems";
import { serve } from "../serve";

/** The yard's own programs: drafts, publishing, and what that changes. */
export function programRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  serve(router, ENDPOINTS.putDraft, async ({ params: { program }, body, version: seen }) => {
    const { id: yardId } = await yard();
    if (seen === 0 && !newIdSchema.safeParse(program).success) throw notOwn(program);
    const file = { ...body.file, id: program };
    const stored = await putDraft(db, yardId, program, seen, file, now());
    if (stored) return stored;
    const current = await findDraft(db, yardId, program);
    if (!current) throw notFound("draft");
    throw changedMeanwhile("this draft", { file: current.file, version: current.version }, { file });
  });

  serve(router, ENDPOINTS.dropDraft, async ({ params, version: seen }) => {
    const { id: yardId } = await yard();
    const current = await findDraft(db, yardId, params.program);
    if (!current) throw notFound("draft");
    if (!(await dropDraft(db, yardId, current.id, seen)))
      throw changedMeanwhile("this draft", { version: current.version }, {});
    return null;
  });

  serve(router, ENDPOINTS.programChanges, async ({ params }) => {
    const home = await yard();
    const draft = await findDraft(db, home.id, params.program);
    if (!draft) throw notFound("draft");
    return programChanges(db, home, soundOf(draft.file).program, now());
  });

  serve(router, ENDPOINTS.publishProgram, async ({ params, version: seen, response }) => {
    const home = await yard();
    const draft = await findDraft(db, home.id, params.program);
    if (!draft) throw notFound("draft");
    const { file } = soundOf(draft.file);
    const published = await inTransaction(db, async (client) => {
      const held = await holdYard(client, home, "alone");
      if (!(await dropDraft(client, home.id, draft.id, seen))) return null;
      const kept = await publish(client, home.id, file, now());
      // Whoever goes by it is judged by it from now on.
      await rebuildThoseBy(client, { ...held, book: held.book.with([kept]) }, kept.id, now());
      return kept;
    });
    if (!published) throw changedMeanwhile("this draft", { version: draft.version }, {});
    response.status(201);
    return { id: published.id, version: published.version };
  });

  return router;
}

const newIdSchema = idSchema.startsWith(OWN_PROGRAM);
const notOwn = (found: string): HttpProblem =>
  new HttpProblem(400, "Bad input", "Some fields are not as expected.", {
    errors: [
      {
        path: "program",
        expected: `an id of at most 200 characters that begins with ${OWN_PROGRAM}`,
        found: shown(found),
      },
    ],
  });

/** A draft as a program that may be published: sound, and with all that guards a person. */
function soundOf(file: unknown): { program: Program; file: ProgramFile } {
  const parsed = parseProgram({ version: 1, ...(file as object) }, true);
  if (parsed.ok) return parsed;
  throw new HttpProblem(422, "Not sound", "This program cannot be published as it is.", { errors: parsed.problems });
}
