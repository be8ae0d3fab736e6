import { Check, CloudOff, TriangleAlert } from "lucide-react";
import { Link } from "react-router";
import { sendingInWords } from "../outbox/trouble-words";
import { shownTime, useReach, useSending } from "../outbox/use-sending";

/** The one quiet place that says what lies on this device only, what was sent, and what cannot be. */
export function Standing() {
  const sending = useSending();
  const reach = useReach();
  const { aloneSince, isCleared } = reach;
  const isTrouble =
    sending.refused > 0 ||
    sending.isShort ||
    isCleared ||
    (sending.trouble !== null && sending.trouble !== "no-network");
  const isHere = sending.waiting + sending.media > 0 || aloneSince !== null;
  const Icon = isTrouble ? TriangleAlert : isHere ? CloudOff : Check;
  return (
    <div role="status" aria-label="What waits here" className="mx-auto max-w-7xl px-4 pt-1 lg:relative lg:h-0 lg:pt-0">
      <Link
        to="/waiting"
        className={`flex min-h-6 w-fit max-w-full items-center gap-x-1.5 text-sm no-underline hover:underline lg:absolute lg:-top-11 lg:right-94 lg:max-w-md ${isTrouble ? "font-semibold text-clay" : isHere ? "font-semibold text-resin" : "text-faint"}`}
      >
        <Icon size={16} className="shrink-0" aria-hidden="true" />
        <span className="truncate">
          {isCleared && "This phone was cleared · "}
          {sendingInWords(sending, shownTime, reach)}
        </span>
      </Link>
    </div>
  );
}
