/** Something only the person at the keyboard can settle: one line that says what is wrong and what to do. */
export class Trouble extends Error {}

/** What a failing PostgreSQL program printed, as one line with what to do. */
export function fromOutput(output: string, folder: string): Trouble {
  if (/No space left on device|could not extend file/i.test(output))
    return new Trouble(
      `The disk holding ${folder} is full: free at least 200 MB there, or set STILLPINE_DATA to a folder on another disk.`,
    );
  if (/Permission denied/i.test(output))
    return new Trouble(
      `The data folder ${folder} cannot be written: make it writable, or set STILLPINE_DATA to a folder that is.`,
    );
  const line =
    output.split("\n").find((one) => /FATAL|ERROR|error:/.test(one)) ??
    output.split("\n").find(Boolean) ??
    "no message";
  return new Trouble(`PostgreSQL did not start on ${folder}: ${line.trim()} (its log is ${folder}/postgres.log).`);
}

/** A failed file operation on the data folder. */
export function fromErrno(cause: unknown, folder: string): Trouble {
  return fromOutput(
    (cause as NodeJS.ErrnoException).code === "ENOSPC" ? "No space left on device" : "Permission denied",
    folder,
  );
}
