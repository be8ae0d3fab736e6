import type { MapEdge, MapNode } from "./graph";
import { layOut } from "./lay-out";

/** Lays the map out beside the page, so that the page never waits. */
addEventListener("message", ({ data }: MessageEvent<{ nodes: MapNode[]; edges: MapEdge[] }>) => {
  postMessage(layOut(data.nodes, data.edges));
});
