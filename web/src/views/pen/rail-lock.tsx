import { Lock } from "lucide-react";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";

const OPEN_SHARE = 0.85;
const KEY_SHARE = 0.2;

/** Lies over everything, so that a stray touch does nothing; opened by sliding the bar from end to end. Keys of a remote go on recording. */
export function RailLock({ onOpen }: { onOpen: () => void }) {
  const track = useRef<HTMLDivElement>(null);
  const from = useRef<number | null>(null);
  const [slid, setSlid] = useState({ share: 0, px: 0 });
  const widthOf = (): number => Math.max(1, (track.current?.clientWidth ?? 1) - 76);
  const slide = (event: PointerEvent): void => {
    if (from.current === null) return;
    const px = Math.min(widthOf(), Math.max(0, event.clientX - from.current));
    setSlid({ share: px / widthOf(), px });
  };
  const letGo = (): void => {
    if (slid.share >= OPEN_SHARE) onOpen();
    from.current = null;
    setSlid({ share: 0, px: 0 });
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key !== "ArrowRight" && event.key !== "ArrowLeft") return;
    event.preventDefault();
    event.stopPropagation();
    const next = slid.share + (event.key === "ArrowRight" ? KEY_SHARE : -KEY_SHARE);
    if (next >= OPEN_SHARE) onOpen();
    else setSlid({ share: Math.max(0, next), px: Math.max(0, next) * widthOf() });
  };
  return (
    <div className="fixed inset-0 z-20 flex touch-none flex-col justify-end bg-paper/60 p-4 pb-10">
      <div ref={track} className="relative h-20 rounded-2xl border-3 border-ink bg-sheet">
        <span className="absolute inset-0 flex items-center justify-center pl-16 text-xl font-bold text-ink">
          Slide to open
        </span>
        <div
          role="slider"
          tabIndex={0}
          aria-label="Rail lock: slide to open"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(slid.share * 100)}
          onKeyDown={onKey}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            from.current = event.clientX;
          }}
          onPointerMove={slide}
          onPointerUp={letGo}
          onPointerCancel={letGo}
          style={{ transform: `translateX(${slid.px}px)` }}
          className="absolute top-0.5 left-0.5 flex h-18 w-18 cursor-grab items-center justify-center rounded-xl bg-pine text-on-pine"
        >
          <Lock size={30} aria-hidden="true" />
        </div>
      </div>
    </div>
  );
}
