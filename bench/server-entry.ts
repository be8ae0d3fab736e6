/** What the benchmarks run of the server, bundled as the programs bundle it. */
export { startCluster } from "../server/src/cluster/cluster";
export { migrate } from "../server/src/db/migrate";
export { createPool } from "../server/src/db/pool";
export { prepareServerRole } from "../server/src/db/roles";
export { rebuildYard } from "../server/src/read-models/rebuild";
export { createYard, loadYard } from "../server/src/store/yard";
