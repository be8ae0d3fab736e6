import type { StepId } from "@still-pine/core/record";
import {
  Controls,
  Handle,
  MiniMap,
  Position,
  ReactFlow,
  ReactFlowProvider,
  type Connection,
  type Edge,
  type Node,
  type NodeProps,
} from "@xyflow/react";
import { memo, useMemo, useState } from "react";
import { nameIn, refsOf, type Dialect, type Program, type ProgramFile } from "@still-pine/core/programs";
import { NODE_HEIGHT, NODE_WIDTH, type Place } from "../../map/graph";
import { usePlaces } from "../../map/use-places";
import { setNeeds } from "./changes";
import "@xyflow/react/dist/base.css";

interface RoadGraphProps {
  program: Program;
  words: Dialect;
  chosen: string | null;
  onChoose: (step: StepId | null) => void;
  onChange: (next: (file: ProgramFile) => ProgramFile) => void;
}

/**
 * The program as a graph: a line is drawn from the step below to the one that is to rest on it, and taken away when it is chosen and
 * deleted.
 */
export function RoadGraph(props: RoadGraphProps) {
  // Laid out once: what is changed stays where it is.
  const [first] = useState(props.program);
  const places = usePlaces(first);
  return (
    <section aria-label="The road as a graph">
      <p className="mb-2 text-sm text-faint">
        Draw from the dot at the end of a step to the dot at the beginning of the one that is to rest on it. Choose a
        line and press Delete to take it away.
      </p>
      <div className="h-[min(70dvh,44rem)] min-h-96 rounded-xl border border-line bg-sheet" aria-busy={places === null}>
        {places ? (
          <ReactFlowProvider>
            <Drawn {...props} places={places} />
          </ReactFlowProvider>
        ) : (
          <p className="p-6 text-faint">Laying out the graph …</p>
        )}
      </div>
    </section>
  );
}

type GraphNode = Node<{ name: string }, "step">;

function Drawn({
  program,
  words,
  places,
  chosen,
  onChoose,
  onChange,
}: RoadGraphProps & { places: ReadonlyMap<string, Place> }) {
  const nodes = useMemo(
    () =>
      program.steps.map((step, index): GraphNode => ({
        id: step.id,
        type: "step",
        position: places.get(step.id) ?? { x: (index % AWAY_WIDE) * (NODE_WIDTH + 24), y: -2 * NODE_HEIGHT },
        width: NODE_WIDTH,
        height: NODE_HEIGHT,
        selected: step.id === chosen,
        data: { name: nameIn(step, words) },
      })),
    [program, words, places, chosen],
  );
  const [picked, setPicked] = useState<string | null>(null);
  const edges = useMemo(
    () =>
      program.steps.flatMap((step) =>
        [...new Set(refsOf(step.needs).map((ref) => ref.step))].map((from): Edge => ({
          id: `${from} ${step.id}`,
          source: from,
          target: step.id,
          selected: picked === `${from} ${step.id}`,
          ariaLabel: `${step.name} rests on ${from}`,
        })),
      ),
    [program, picked],
  );
  const rests = (
    id: string,
    change: (needs: Program["steps"][number]["needs"]) => Program["steps"][number]["needs"],
  ): void => {
    const step = program.steps.find((one) => one.id === id);
    if (step) onChange((now) => setNeeds(now, id, change(step.needs)));
  };
  const join = ({ source, target }: Connection): void =>
    rests(target, (needs) =>
      refsOf(needs).some(({ step }) => step === source) ? needs : [...needs, { anyOf: [[{ step: source }]] }],
    );
  const cut = (gone: readonly Edge[]): void => {
    for (const { source, target } of gone)
      rests(target, (needs) =>
        needs
          .map(({ anyOf }) => ({ anyOf: anyOf.filter((way) => !way.some(({ step }) => step === source)) }))
          .filter(({ anyOf }) => anyOf.length > 0),
      );
  };
  return (
    <ReactFlow
      nodes={nodes}
      edges={edges}
      nodeTypes={NODE_TYPES}
      nodesDraggable={false}
      minZoom={0.1}
      onInit={(flow) => {
        const place = places.get(chosen ?? program.steps[0]?.id ?? "");
        if (place) void flow.setCenter(place.x + 2 * NODE_WIDTH, place.y, { zoom: READABLE_ZOOM });
      }}
      deleteKeyCode={["Delete", "Backspace"]}
      onConnect={join}
      onEdgesDelete={cut}
      onEdgeClick={(_event, { id }) => setPicked(id)}
      onEdgesChange={(changes) => {
        for (const one of changes) if (one.type === "select") setPicked(one.selected ? one.id : null);
      }}
      onNodeClick={(_event, { id }) => onChoose(id)}
      onBeforeDelete={async ({ edges: gone }) => ({ nodes: [], edges: gone })}
      aria-label="The road as a graph"
    >
      <Controls showInteractive={false} />
      <MiniMap pannable ariaLabel="The whole graph, small" />
    </ReactFlow>
  );
}

const AWAY_WIDE = 8;
const READABLE_ZOOM = 0.9;

const StepNode = memo(function StepNode({ data, selected }: NodeProps<GraphNode>) {
  return (
    <div
      className={
        selected
          ? "flex h-full items-center justify-center rounded-lg border-2 border-pine bg-moss px-2 text-center text-sm leading-tight"
          : "flex h-full items-center justify-center rounded-lg border border-line bg-paper px-2 text-center text-sm leading-tight"
      }
    >
      <Handle type="target" position={Position.Left} className="size-4 rounded-full bg-pine" />
      {data.name}
      <Handle type="source" position={Position.Right} className="size-4 rounded-full bg-pine" />
    </div>
  );
});
const NODE_TYPES = { step: StepNode };
