import type { YardId } from "@still-pine/core/record";
import { useState } from "react";
import { linkTo } from "../../ask";
import { changeYard } from "../../alone/start";

/** Another yard's Still Pine stands at the address of the one this device works for. */
export function OtherYard({ waiting }: { waiting: number }) {
  const [failed, setFailed] = useState(false);
  const change = async (): Promise<void> => {
    // Asked without saying which yard is meant: this one says which it is.
    const hello = await fetch(linkTo<"hello">("/hello", {}))
      .then((response) => response.json() as Promise<{ yard: YardId | null }>)
      .catch(() => null);
    if (hello?.yard) await changeYard(hello.yard);
    else setFailed(true);
  };
  return (
    <div className="rounded-lg border border-line p-3">
      <p className="mb-2">
        To work for this yard from now on, change over.{" "}
        {waiting > 0
          ? `The ${waiting} that wait for the other one are put aside under “Cannot be sent”; take them out as a file first.`
          : "Nothing waits for the other one."}
      </p>
      <button type="button" className="button" onClick={() => void change()}>
        Work for this yard
      </button>
      {failed && (
        <p role="alert" className="mt-2 font-semibold text-clay">
          This yard has not let the device in yet: pair it first.
        </p>
      )}
    </div>
  );
}
