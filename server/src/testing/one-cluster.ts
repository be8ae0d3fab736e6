import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { TestProject } from "vitest/node";
import { startCluster } from "../cluster/cluster";
import { migrate } from "../db/migrate";
import { prepareServerRole } from "../db/roles";
import { withClient } from "../db/with-client";

declare module "vitest" {
  export interface ProvidedContext {
    /** The address of a cluster that all test files share; each makes databases of its own from `TEMPLATE`. */
    cluster: string;
  }
}

/** A database that is migrated already. */
export const TEMPLATE = "template_yard";

/** One cluster for a whole run of the tests: to make one takes longer than most files of tests do. */
export default async function oneCluster({ provide }: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-tests-"));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(folder);
  await withClient(cluster.url, async (client) => {
    // Nothing of it has to outlive a failure of the machine, and a database that goes has all of them written to the disk.
    await client.query("alter system set fsync = off");
    await client.query("select pg_reload_conf()");
    await client.query(`create database ${TEMPLATE}`);
  });
  await withClient(cluster.url.replace(/[^/]+$/, TEMPLATE), async (client) => {
    await migrate(client);
    await prepareServerRole(client);
  });
  provide("cluster", cluster.url);
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
