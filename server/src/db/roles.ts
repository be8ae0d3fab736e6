import { randomBytes } from "node:crypto";
import type { Client } from "pg";

/**
 * The role the server works as. What is recorded it may read and add to, never change or remove; only the role that
 * migrates, and the burial procedure, can.
 */
export const SERVER_ROLE = "still_pine_server";

const RECORDED = ["event", "media", "media_thumbnail", "program", "outing_owner", "outing_alias"];
const ROWS = ["yard", "place", "person", "horse"];
const ACCESS = ["device", "pairing_code", "pairing_miss", "outing_plan", "program_draft", "trouble", "words_anew"];
const READ_MODELS = ["outing", "ledger", "horse_state"];

/**
 * Makes the role where it is missing and gives it its rights. Call after the migrations, as their owner.
 *
 * @returns false where this user of the database may not make roles; the trigger on events then stands alone
 */
export async function prepareServerRole(client: Client): Promise<boolean> {
  try {
    await client.query(`create role ${SERVER_ROLE} nologin`);
  } catch (cause) {
    const code = (cause as { code?: string }).code;
    if (code === "42501") return (await roleIsOurs(client)) && (await grant(client));
    // duplicate_object, and unique_violation where two programs make it at once.
    if (code !== "42710" && code !== "23505") throw cause;
  }
  if (!(await roleIsOurs(client))) await client.query(`grant ${SERVER_ROLE} to current_user`);
  return grant(client);
}

/**
 * The address under which the server logs in as its own role, with a password that lives as long as this program: a
 * statement that slipped in could not climb back to the owner.
 *
 * @param url the owner's address
 */
export async function logInAsServer(client: Client, url: string): Promise<string> {
  const password = randomBytes(24).toString("hex");
  await client.query(`alter role ${SERVER_ROLE} login password '${password}'`);
  const address = new URL(url);
  address.username = SERVER_ROLE;
  address.password = password;
  return address.href;
}

async function roleIsOurs(client: Client): Promise<boolean> {
  const { rows } = await client.query<{ ours: boolean }>(
    "select coalesce(bool_or(pg_has_role(oid, 'member')), false) as ours from pg_roles where rolname = $1",
    [SERVER_ROLE],
  );
  return rows[0]?.ours === true;
}

async function grant(client: Client): Promise<true> {
  await client.query(`
    grant usage on schema public to ${SERVER_ROLE};
    grant select, insert on ${RECORDED.join(", ")} to ${SERVER_ROLE};
    grant select, insert, update on ${ROWS.join(", ")} to ${SERVER_ROLE};
    grant select, insert, update, delete on ${[...READ_MODELS, ...ACCESS].join(", ")} to ${SERVER_ROLE};
    grant select on migration to ${SERVER_ROLE};
  `);
  return true;
}
