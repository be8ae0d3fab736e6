import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import type { CodeView } from "@still-pine/contract/http";
import { useMakeCodeMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { sendKept } from "../../outbox/send";
import { Panel } from "./panels";
import { useSession } from "./pen-context";

/** What draws the code comes once the laptop has answered: without a network there is none to draw. */
const CodeCard = lazy(async () => ({ default: (await import("../phones/code-card")).CodeCard }));

/** A code for a helper: they see this outing, write it down, and nothing else. */
export function HelperPanel({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const [make] = useMakeCodeMutation();
  const [made, setMade] = useState<CodeView | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const outing = session.outing.id;
  useEffect(() => {
    let wanted = true;
    // The server has to know the outing before anybody can join it.
    void sendKept()
      .catch(() => "ill")
      .then(() => make({ rights: "write", outing }))
      .then((result) => {
        if (!wanted) return;
        if (result.data) setMade(result.data);
        else setTrouble(problemOf(result.error).detail);
      });
    return () => {
      wanted = false;
    };
  }, [make, outing]);
  const over = useCallback(() => {
    setMade(null);
    setTrouble("That code has ended. Open this again for a new one.");
  }, []);
  return (
    <Panel title="Helper at the rail" onClose={onClose}>
      {made ? (
        <Suspense>
          <CodeCard made={made} onOver={over} />
        </Suspense>
      ) : (
        <p role="status" className="text-xl">
          {trouble ?? "Asking the laptop for a code …"}
        </p>
      )}
      <p className="mt-3 text-lg">
        They scan it, or type it on their phone. They see this outing, write down what you call out, and nothing else; a
        day later it has ended. A phone that is paired already finds the outing on the string.
      </p>
    </Panel>
  );
}
