import { v7 as newId } from "uuid";
import type { Db } from "../db/pool";

export interface Yard {
  id: string;
  name: string;
  timeZone: string;
}

/** The yard this server works for; there is one for now, and every query is scoped by its id. */
export async function loadYard(db: Db): Promise<Yard | null> {
  const { rows } = await db.query<Yard>(
    `select id, name, time_zone as "timeZone" from yard order by created_at, id limit 1`,
  );
  return rows[0] ?? null;
}

export async function createYard(db: Db, name: string, timeZone: string): Promise<Yard> {
  const yard = { id: newId(), name, timeZone };
  await db.query("insert into yard (id, name, time_zone) values ($1, $2, $3)", [yard.id, name, timeZone]);
  return yard;
}
