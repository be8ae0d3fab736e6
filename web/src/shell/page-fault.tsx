import { Link, useRouteError } from "react-router";

/** A page that does not exist, or one that broke. */
export function PageFault() {
  const error = useRouteError();
  return (
    <main className="mx-auto max-w-xl p-8">
      <title>Still Pine</title>
      <h1 className="text-3xl">{error ? "This page broke" : "No such page"}</h1>
      <p className="my-4">
        {error
          ? "A fault of ours, not of yours. What was saved is safe; load the page again."
          : "The address leads nowhere in Still Pine."}
      </p>
      <Link className="link" to="/">
        To the string
      </Link>
    </main>
  );
}
