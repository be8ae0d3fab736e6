// Writes docs/horse-record.schema.json from the contract. A test compares the two.
import { rolldown } from "rolldown";
import { writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import path from "node:path";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const build = await rolldown({ input: path.join(root, "contract/src/record/index.ts"), platform: "node" });
const file = path.join(root, ".cache/contract.mjs");
await build.write({ file, format: "esm" });
const { recordJsonSchema } = await import(file);
writeFileSync(path.join(root, "docs/horse-record.schema.json"), `${JSON.stringify(recordJsonSchema(), null, 2)}\n`);
