import type { StepId } from "@still-pine/core/record";
import {
  Controls,
  getBezierPath,
  MiniMap,
  Position,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
  ViewportPortal,
  type Node,
  type NodeProps,
} from "@xyflow/react";
import { clsx } from "clsx";
import { memo, useMemo, useRef, type CSSProperties, type KeyboardEvent } from "react";
import type { PrintView } from "@still-pine/contract/http";
import { nameIn, type Dialect, type Program, type Step } from "@still-pine/core/programs";
import { Hoofprint } from "../../marks/hoofprint";
import { printOf } from "../../marks/prints";
import { graphOf, isArrow, litBy, neighbour, NODE_HEIGHT, NODE_WIDTH, type Place } from "./graph";
import { usePlaces } from "./use-places";
import "@xyflow/react/dist/base.css";

interface StepMapProps {
  program: Program;
  trail: readonly PrintView[];
  words: Dialect;
  chosen: string | null;
  /** Where the map opens: the step work is at. */
  at: string | undefined;
  /** Steps begun on what is not steady itself. */
  onTrust: ReadonlySet<StepId>;
  onChoose: (step: StepId | null) => void;
}

type Light = "none" | "chosen" | "under" | "above" | "dark";
type StepNode = Node<{ name: string; print: PrintView; light: Light; isOnTrust: boolean }, "step">;

/** The map itself: pan by dragging, zoom by the wheel, walk by the arrows. */
export function StepMap(props: StepMapProps) {
  const places = usePlaces(props.program);
  return (
    <div className="h-[min(70dvh,44rem)] min-h-96 rounded-xl border border-line bg-sheet" aria-busy={places === null}>
      {places ? (
        <ReactFlowProvider>
          <Drawn {...props} places={places} />
        </ReactFlowProvider>
      ) : (
        <p className="p-6 text-faint">Laying out the map …</p>
      )}
    </div>
  );
}

function lightOf(id: string, chosen: string | null, { under, above }: ReturnType<typeof litBy>): Light {
  if (chosen === null) return "none";
  return id === chosen ? "chosen" : under.has(id) ? "under" : above.has(id) ? "above" : "dark";
}

function nodeOf(
  step: Step,
  {
    words,
    trail,
    onTrust,
    places,
    light,
  }: Pick<StepMapProps, "words" | "trail" | "onTrust"> & { places: ReadonlyMap<string, Place>; light: Light },
): StepNode {
  const name = nameIn(step, words);
  const print = printOf(trail, step);
  const isOnTrust = onTrust.has(step.id);
  return {
    id: step.id,
    type: "step",
    position: places.get(step.id) ?? { x: 0, y: 0 },
    style: standAt(places.get(step.id)),
    width: NODE_WIDTH,
    height: NODE_HEIGHT,
    // Known beforehand: nothing has to be measured before it is drawn.
    measured: { width: NODE_WIDTH, height: NODE_HEIGHT },
    data: { name, print, light, isOnTrust },
    ariaLabel: `${name}, ${print.status}${isOnTrust ? ", begun on trust" : ""}`,
    ariaRole: "button",
    // One stop for the Tab key; the arrows do the walking.
    focusable: true,
  };
}

/** A place instead of a transform of its own: a hundred transforms are a hundred layers to put together in every frame of a drag. */
const standAt = (place: Place | undefined): CSSProperties => ({ transform: "none", left: place?.x, top: place?.y });

const NODE_TYPES = { step: memo(StepOnMap) };
const LEAST_ZOOM = 0.15;
const READABLE_ZOOM = 0.8;

function Drawn({
  program,
  trail,
  words,
  chosen,
  at,
  onTrust,
  onChoose,
  places,
}: StepMapProps & { places: ReadonlyMap<string, Place> }) {
  const flow = useReactFlow();
  const frame = useRef<HTMLDivElement>(null);
  const lit = useMemo(() => litBy(program, chosen), [program, chosen]);
  // Each node stays the same object until something about it changes, and is drawn anew only then.
  const nodes = useMemo(
    () =>
      program.steps.map((step) =>
        nodeOf(step, { words, trail, onTrust, places, light: lightOf(step.id, chosen, lit) }),
      ),
    [program, words, trail, onTrust, places, chosen, lit],
  );
  const goTo = (id: string): void => {
    const place = places.get(id);
    if (!place) return;
    void flow.setCenter(place.x + NODE_WIDTH / 2, place.y + NODE_HEIGHT / 2, {
      zoom: Math.max(flow.getZoom(), READABLE_ZOOM),
    });
    frame.current
      ?.querySelector<HTMLElement>(`.react-flow__node[data-id="${CSS.escape(id)}"]`)
      ?.focus({ preventScroll: true });
  };
  const onKey = (event: KeyboardEvent): void => {
    const at = (event.target as HTMLElement).closest<HTMLElement>(".react-flow__node")?.dataset["id"];
    if (at === undefined) return;
    if (event.key === "Enter" || event.key === " ") onChoose(at === chosen ? null : at);
    else if (isArrow(event.key)) goTo(neighbour(places, at, event.key) ?? at);
    else if (event.key === "Escape") onChoose(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div ref={frame} className="h-full" onKeyDownCapture={onKey}>
      <ReactFlow
        nodes={nodes}
        nodeTypes={NODE_TYPES}
        nodesDraggable={false}
        nodesConnectable={false}
        elementsSelectable
        disableKeyboardA11y
        minZoom={LEAST_ZOOM}
        maxZoom={2}
        onInit={() => {
          const place = places.get(chosen ?? at ?? "");
          if (place) void flow.setCenter(place.x + NODE_WIDTH / 2, place.y + NODE_HEIGHT / 2, { zoom: READABLE_ZOOM });
          else void flow.fitView();
        }}
        onNodeClick={(_event, node) => onChoose(node.id === chosen ? null : node.id)}
        onPaneClick={() => onChoose(null)}
        aria-label="Map of the steps"
      >
        <ViewportPortal>
          <Lines program={program} chosen={chosen} lit={lit} places={places} />
        </ViewportPortal>
        <Controls showInteractive={false} />
        <MiniMap pannable ariaLabel="The whole map, small" nodeClassName={miniClass} />
      </ReactFlow>
    </div>
  );
}

interface LinesProps {
  program: Program;
  chosen: string | null;
  lit: ReturnType<typeof litBy>;
  places: ReadonlyMap<string, Place>;
}

/** What rests on what, in one drawing: two hundred drawings of a line each have to be put together in every frame of a drag. */
const Lines = memo(({ program, chosen, lit, places }: LinesProps) => {
  const graph = useMemo(() => graphOf(program), [program]);
  return (
    <svg className="pointer-events-none absolute top-0 left-0 -z-10 size-px overflow-visible" aria-hidden="true">
      {graph.edges.map(({ from, to, isLoose }) => {
        const [start, end] = [places.get(from), places.get(to)];
        if (!start || !end) return null;
        const isLit = chosen !== null && (to === chosen || lit.under.has(to)) && lit.under.has(from);
        const isAbove = from === chosen && lit.above.has(to);
        const [path] = getBezierPath({
          sourceX: start.x + NODE_WIDTH,
          sourceY: start.y + NODE_HEIGHT / 2,
          sourcePosition: Position.Right,
          targetX: end.x,
          targetY: end.y + NODE_HEIGHT / 2,
          targetPosition: Position.Left,
        });
        return (
          <path
            key={`${from} ${to}`}
            d={path}
            strokeDasharray={isLoose ? "5 4" : undefined}
            className={clsx(
              "step-edge",
              isLit && "step-edge-lit",
              isAbove && "step-edge-above",
              chosen !== null && !isLit && !isAbove && "step-edge-dark",
            )}
          />
        );
      })}
    </svg>
  );
});

const miniClass = ({ data }: Node): string => `mini-${(data as StepNode["data"]).print.status}`;

const LIGHTS: Record<Light, string> = {
  none: "border-line bg-paper",
  chosen: "border-pine bg-pine text-on-pine ring-2 ring-pine",
  under: "border-pine bg-moss ring-2 ring-pine",
  above: "border-resin bg-paper ring-2 ring-resin",
  dark: "border-line bg-paper opacity-70",
};

function StepOnMap({ data: { name, print, light, isOnTrust } }: NodeProps<StepNode>) {
  return (
    <div
      className={clsx(
        "flex h-full items-center gap-2 rounded-lg border px-1.5 text-sm leading-tight",
        LIGHTS[light],
        isOnTrust && "border-2 border-dashed border-resin",
      )}
    >
      <span aria-hidden="true" className={light === "chosen" ? "rounded bg-sheet p-0.5" : undefined}>
        <Hoofprint print={print} name={name} size={24} />
      </span>
      {name}
    </div>
  );
}
