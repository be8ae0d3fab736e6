// Writes docs/horse-record.schema.json and the tables of docs/record-format.md from the contract. Tests compare them.
import { rolldown } from "rolldown";
import { readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import path from "node:path";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const build = await rolldown({ input: path.join(root, "contract/src/record/index.ts"), platform: "node" });
const file = path.join(root, ".cache/contract.mjs");
await build.write({ file, format: "esm" });
const { programJsonSchema, recordJsonSchema, typesInMarkdown } = await import(file);
writeFileSync(path.join(root, "docs/program.schema.json"), `${JSON.stringify(programJsonSchema(), null, 1)}\n`);
writeFileSync(path.join(root, "docs/horse-record.schema.json"), `${JSON.stringify(recordJsonSchema(), null, 1)}\n`);
const format = path.join(root, "docs/record-format.md");
const [before, , after] = readFileSync(format, "utf8").split(/<!-- (?:types|end of types) -->\n/);
writeFileSync(format, `${before}<!-- types -->\n\n${typesInMarkdown()}\n\n<!-- end of types -->\n${after}`);
