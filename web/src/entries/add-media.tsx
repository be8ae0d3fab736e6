import type { HorseId } from "@still-pine/core/record";
import { Camera } from "lucide-react";
import { useRef, useState } from "react";
import { problemOf } from "../parts/problem";
import { ProblemNote } from "../parts/page-state";
import { toUpload } from "../media/prepare";
import { useRecord } from "../writing/use-record";

interface AddMediaProps {
  horse: HorseId;
  outing: { id: string; at: string } | null;
}

/** Puts a photo or clip on an outing or on the horse. Photos are drawn anew in the browser, so nothing hidden leaves it. */
export function AddMedia({ horse, outing }: AddMediaProps) {
  const input = useRef<HTMLInputElement>(null);
  const { attach, isLoading: isBusy, error } = useRecord();
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (input.current) input.current.value = "";
    if (!file) return;
    setTrouble(null);
    const upload = await toUpload(file);
    if ("trouble" in upload) setTrouble(upload.trouble);
    else await attach({ horse, outing: outing?.id ?? null, ...(outing ? { at: outing.at } : {}) }, upload);
  };
  return (
    <>
      <button type="button" className="button" disabled={isBusy} onClick={() => input.current?.click()}>
        <Camera size={18} aria-hidden="true" /> {isBusy ? "Storing …" : "Photo or clip"}
      </button>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp,image/*,video/mp4,video/quicktime"
        aria-label="Photo or clip file"
        className="hidden"
        onChange={(event) => void take(event.target.files?.[0])}
      />
      {trouble && (
        <p role="alert" className="basis-full font-semibold text-clay">
          {trouble}
        </p>
      )}
      {error && (
        <div className="basis-full">
          <ProblemNote problem={problemOf(error)} />
        </div>
      )}
    </>
  );
}
