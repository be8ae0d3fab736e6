import { Check, CloudOff, TriangleAlert } from "lucide-react";
import { Link } from "react-router";
import { sendingInWords } from "../outbox/trouble-words";
import { shownTime, useReach, useSending } from "../outbox/use-sending";

/** The one quiet place that says what lies on this device only, what was sent, and what cannot be. */
export function Standing() {
  const sending = useSending();
  const { aloneSince, isCleared } = useReach();
  const isTrouble =
    sending.refused > 0 ||
    sending.isShort ||
    isCleared ||
    (sending.trouble !== null && sending.trouble !== "no-network");
  const isHere = sending.waiting + sending.media > 0 || aloneSince !== null;
  const Icon = isTrouble ? TriangleAlert : isHere ? CloudOff : Check;
  return (
    <div role="status" aria-label="What waits here" className="mx-auto max-w-7xl px-4 pt-1">
      <Link
        to="/waiting"
        className={`inline-flex min-h-6 items-center gap-x-1.5 text-sm no-underline hover:underline ${isTrouble ? "font-semibold text-clay" : isHere ? "font-semibold text-resin" : "text-faint"}`}
      >
        <Icon size={16} className="shrink-0" aria-hidden="true" />
        {isCleared && "This phone was cleared · "}
        {sendingInWords(sending, shownTime, aloneSince)}
      </Link>
    </div>
  );
}
