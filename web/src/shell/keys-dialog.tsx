import { useState } from "react";
import { Modal } from "../parts/modal";
import { setSingleKeys, singleKeysOn } from "./keys";

const KEYS = [
  ["s", "the string"],
  ["h", "the horse you are with"],
  ["o", "go out with the horse you are with: the card of the next outing"],
  ["m", "the map of the steps of the horse you are with"],
  ["c", "a check-up of the horse you are with"],
  ["t", "where to look when something goes wrong"],
  ["Ctrl + K or /", "find a step by any word for it"],
  ["p", "the programs: to read, compare and change"],
  ["l", "the ledger"],
  ["y", "the yard and its settings"],
  ["w", "write up an outing"],
  ["n", "new horse, on the string"],
  ["↑ ↓ ← →", "move on the feel square, and from step to step on the map"],
  ["Enter", "record the ask under the cursor; choose a step on the map"],
  ["Ctrl + Z", "take back the last entry of a write-up"],
  ["?", "these keys"],
] as const;

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [on, setOn] = useState(singleKeysOn);
  return (
    <Modal open={open} onOpenChange={onOpenChange} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] items-center gap-x-4 gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-line bg-paper px-2 py-0.5">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <label className="mt-4 flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="size-5 accent-pine"
          checked={on}
          onChange={(event) => {
            setOn(event.target.checked);
            setSingleKeys(event.target.checked);
          }}
        />
        Single letters are keys
      </label>
    </Modal>
  );
}
