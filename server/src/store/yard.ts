import { v7 as newId } from "uuid";
import type { YardFields } from "@still-pine/contract/http";
import type { Db } from "../db/pool";

export interface Yard extends YardFields {
  id: string;
  version: number;
}

const COLUMNS = `id, name, time_zone as "timeZone", units, words, version`;

/** The yard this server works for; there is one for now, and every query is scoped by its id. */
export async function loadYard(db: Db): Promise<Yard | null> {
  const { rows } = await db.query<Yard>(`select ${COLUMNS} from yard order by created_at, id limit 1`);
  return rows[0] ?? null;
}

export async function createYard(db: Db, name: string, timeZone: string): Promise<Yard> {
  const { rows } = await db.query<Yard>(
    `insert into yard (id, name, time_zone) values ($1, $2, $3) returning ${COLUMNS}`,
    [newId(), name, timeZone],
  );
  const [yard] = rows;
  if (!yard) throw new Error("the new yard did not come back");
  return yard;
}

/** Changes the settings if they still are the version that was seen; null when they are not. */
export async function updateYard(db: Db, id: string, seenVersion: number, fields: YardFields): Promise<Yard | null> {
  const { rows } = await db.query<Yard>(
    `update yard set name = $3, time_zone = $4, units = $5, words = $6, version = version + 1
     where id = $1 and version = $2 returning ${COLUMNS}`,
    [id, seenVersion, fields.name, fields.timeZone, fields.units, fields.words],
  );
  return rows[0] ?? null;
}
