import { Graph, layout } from "@dagrejs/dagre";
import type { MapEdge, MapNode, Place } from "./graph";

/** Places of the upper left corners, from left to right in layers (Sugiyama's method, by dagre). */
export function layOut(nodes: readonly MapNode[], edges: readonly MapEdge[]): Map<string, Place> {
  const graph = new Graph();
  graph.setGraph({ rankdir: "LR", nodesep: 10, ranksep: 46, ranker: "network-simplex" });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const { id, width, height } of nodes) graph.setNode(id, { width, height });
  for (const { from, to } of edges) graph.setEdge(from, to);
  layout(graph);
  return new Map(
    nodes.map(({ id, width, height }) => {
      const { x, y } = graph.node(id) as Place;
      return [id, { x: x - width / 2, y: y - height / 2 }];
    }),
  );
}
