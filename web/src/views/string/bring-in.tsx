import { lazy, Suspense, useRef, useState } from "react";

const BringInDialog = lazy(async () => ({ default: (await import("./bring-in-dialog")).BringInDialog }));

/** A horse comes with its record: a file in the open format, or an archive of it. */
export function BringIn({ label = "Bring in a record" }: { label?: string }) {
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  return (
    <>
      <button type="button" className="button" onClick={() => input.current?.click()}>
        {label}
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,.zip,application/json,application/zip"
        aria-label="Record file"
        className="hidden"
        onChange={(event) => {
          setFile(event.target.files?.[0] ?? null);
          event.target.value = "";
        }}
      />
      {file && (
        <Suspense>
          <BringInDialog file={file} onClose={() => setFile(null)} />
        </Suspense>
      )}
    </>
  );
}
