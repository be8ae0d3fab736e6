import { Client } from "pg";

/** One connection for one piece of work, closed afterwards. */
export async function withClient<Result>(url: string, work: (client: Client) => Promise<Result>): Promise<Result> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}
