/** Names what failed, from the reports of a test run in the folder given: checks, unit tests, browser tests. */
import { existsSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";

const folder = process.argv[2];

/** A report's text, or undefined where the run did not get that far. */
const report = (name) => {
  const path = join(folder, name);
  return existsSync(path) ? readFileSync(path, "utf8") : undefined;
};

/** The first line of what a test said when it failed. */
const firstLine = (text) => (text ?? "").split("\n")[0].slice(0, 300);

for (const line of (report("failures") ?? "").split("\n").filter((line) => line !== "")) console.log(`FAILED ${line}`);

for (const file of JSON.parse(report("unit.json") ?? '{"testResults":[]}').testResults) {
  const name = relative(process.cwd(), file.name);
  const failures = file.assertionResults.filter((test) => test.status === "failed");
  if (file.status === "failed" && file.assertionResults.length === 0)
    console.log(`FAILED ${name}: ${firstLine(file.message)}`);
  for (const test of failures) console.log(`FAILED ${name} › ${test.fullName}: ${firstLine(test.failureMessages[0])}`);
}

/** Every test of a suite and of the suites within it. */
const specs = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specs)];
for (const spec of JSON.parse(report("e2e.json") ?? '{"suites":[]}').suites.flatMap(specs))
  if (!spec.ok) console.log(`FAILED ${spec.file}:${spec.line} › ${spec.title}`);
