import { existsSync, readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";

const root = path.resolve(import.meta.dirname, "../..");

interface Source {
  file: string;
  text: string;
}

function sources(folder: string): Source[] {
  return readdirSync(path.join(root, folder), { recursive: true, encoding: "utf8" })
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file))
    .map((file) => ({ file: `${folder}${file}`, text: readFileSync(path.join(root, folder, file), "utf8") }));
}

const offenders = (folder: string, pattern: RegExp): string[] =>
  sources(folder)
    .filter(({ text }) => pattern.test(text))
    .map(({ file }) => file);

describe("arrows point downwards", () => {
  it("core reads no clock, draws no random number and reaches nothing outside", () => {
    expect(sources("core/src/").length).toBeGreaterThan(20);
    expect(
      offenders(
        "core/src/",
        /Date\.now|new Date\(\)|Math\.random|process\.|from "(node:|react|express|pg"|@still-pine)|fetch\(|console\./,
      ),
    ).toEqual([]);
  });

  it("contract knows core and nothing above it", () => {
    expect(offenders("contract/src/", /from "(node:|react|express|pg"|@still-pine\/(server|web))/)).toEqual([]);
  });

  it("server and web do not know each other", () => {
    expect(offenders("server/src/", /from "(react|@still-pine\/web|.*\/web\/)/)).toEqual([]);
    expect(offenders("web/src/", /from "(express|pg"|@still-pine\/server|.*\/server\/)/)).toEqual([]);
  });

  it("SQL is written under store and db, and where whole databases are the matter", () => {
    const outside = offenders("server/src/", /\.query(<[^(]*>)?\(/).filter(
      (file) => !/^server\/src\/(store|db|cluster|testing)\//.test(file) && !SQL_BESIDES.has(file),
    );
    expect(outside).toEqual([]);
  });
});

/** Commands that make, copy and rename whole databases; the one connection that listens; the role that is told to stand back. */
const SQL_BESIDES = new Set([
  "server/src/cli/data.ts",
  "server/src/cli/database.ts",
  "server/src/cli/load-backup.ts",
  "server/src/live/hub.ts",
  "server/src/phones/local-name.ts",
  "server/src/process/stand-back.ts",
]);

/**
 * The folders of each package from the bottom up; those on one line do not know each other. A folder may import from those above it
 * in this list, and from no other. Files that lie in no folder are left out: what starts a package, and the store of the page.
 */
const LAYERS: Readonly<Record<string, readonly (readonly string[])[]>> = {
  core: [
    ["body"],
    ["record"],
    ["programs"],
    ["evidence", "recording"],
    ["readiness"],
    ["checkup", "troubles"],
    ["outing"],
    ["workload"],
    ["planning"],
    ["simulated"],
  ],
  contract: [["record"], ["http"], ["views"]],
  server: [
    ["cluster", "refusals"],
    ["db", "process"],
    ["store"],
    ["live", "media", "read-models", "phones"],
    ["recording", "views"],
    ["access", "csv", "demo"],
    ["archive"],
    ["cli"],
    ["http"],
  ],
  web: [
    ["marks"],
    ["parts"],
    ["outbox"],
    ["book", "media"],
    ["alone"],
    ["pen", "writing"],
    ["entries"],
    ["shell"],
    ["views"],
  ],
};
/** What tests share may reach everything. */
const FOR_TESTS = new Set(["testing", "goldens"]);

/** The folder of its package that a file lies in; "" for one that lies in none. */
const folderOf = (file: string): string => {
  const [, , folder, ...rest] = file.split("/");
  return rest.length > 0 ? (folder ?? "") : "";
};

function importsOf({ file, text }: Source): string[] {
  const said = [...text.matchAll(/(?:from |import\(|import |new URL\()"(\.[^"]*)"/g)].map((match) => match[1] ?? "");
  return said.flatMap((one) => {
    const base = path.posix.join(path.posix.dirname(file), one);
    const found = [base, `${base}.ts`, `${base}.tsx`, `${base}/index.ts`].find(
      (name) => /\.tsx?$/.test(name) && existsSync(path.join(root, name)),
    );
    return found ? [found] : [];
  });
}

it("no file is so long that nobody reads it", () => {
  const all = ["core/src/", "contract/src/", "server/src/", "web/src/", "e2e/", "bench/"].flatMap((folder) =>
    readdirSync(path.join(root, folder), { recursive: true, encoding: "utf8" })
      .filter((file) => /\.(tsx?|mjs)$/.test(file))
      .map((file) => ({
        file: folder + file,
        lines: readFileSync(path.join(root, folder, file), "utf8").split("\n").length - 1,
      })),
  );
  expect(all.length).toBeGreaterThan(400);
  expect(all.filter(({ lines }) => lines > 400)).toEqual([]);
});

describe.each(Object.entries(LAYERS))("the folders of %s", (name, layers) => {
  const rank = new Map(layers.flatMap((layer, at) => layer.map((folder) => [folder, at] as const)));
  const files = sources(`${name}/src/`).filter(({ file }) => !FOR_TESTS.has(folderOf(file)));

  it("are all named, from the bottom up", () => {
    const there = new Set(files.map(({ file }) => folderOf(file)).filter(Boolean));
    expect([...there].toSorted()).toEqual([...rank.keys()].toSorted());
  });

  it("import downwards alone", () => {
    const upwards = files.flatMap((source) => {
      const from = folderOf(source.file);
      return importsOf(source)
        .filter((target) => {
          const to = folderOf(target);
          if (to === from || to === "" || from === "") return false;
          return FOR_TESTS.has(to) ? !source.file.includes("/testing") : (rank.get(to) ?? 99) >= (rank.get(from) ?? -1);
        })
        .map((target) => `${source.file} imports ${target}`);
    });
    expect(upwards).toEqual([]);
  });
});

/** The folders of a package and what each imports, as a drawing. */
function drawn(name: string): string {
  const arrows = new Set<string>();
  for (const source of sources(`${name}/src/`)) {
    const from = folderOf(source.file);
    if (from === "" || FOR_TESTS.has(from)) continue;
    for (const target of importsOf(source)) {
      const to = folderOf(target);
      if (to !== "" && to !== from && !FOR_TESTS.has(to)) arrows.add(`  ${from} --> ${to}`);
    }
  }
  return ["```mermaid", "flowchart TD", ...[...arrows].toSorted(), "```"].join("\n");
}

describe("docs/architecture.md", () => {
  const text = readFileSync(path.join(root, "docs/architecture.md"), "utf8");
  const flows = [...text.matchAll(/```flow\n([\s\S]*?)```/g)].map(([, flow = ""]) =>
    flow
      .split("\n")
      .filter((line) => line.trim() !== "")
      .map((line) => ({ depth: line.search(/\S/) / 2, file: line.trim().split(/\s+/)[0] ?? "" })),
  );

  it("draws the imports as they are; `npx vitest run server/src/architecture.test.ts -u` draws them anew", async () => {
    const figure = Object.keys(LAYERS).map((name) => `## ${name}\n\n${drawn(name)}\n`);
    const whole = `# What imports what, folder by folder\n\nDrawn from the imports by server/src/architecture.test.ts.\n\n${figure.join("\n")}`;
    await expect(whole).toMatchFileSnapshot(path.join(root, "docs/figures/imports.md"));
  });

  it("lists the folders in their order", () => {
    const rows = Object.values(LAYERS).map((layers) =>
      layers.map((layer) => layer.map((one) => `\`${one}\``).join(", ")),
    );
    const told = text
      .split("\n")
      .filter((line) => /^\| (`[a-z-]+`(, )?)+ \|/.test(line) && line.split("|").length === 6);
    const [, ...lines] = told.map((line) =>
      line
        .split("|")
        .slice(1, 5)
        .map((cell) => cell.trim()),
    );
    expect(rows.map((_row, at) => lines.map((line) => line[at]).filter(Boolean))).toEqual(rows);
  });

  it("has three flows, each file there and passed once, each called by the one above it", () => {
    expect(flows.length).toBe(3);
    const wrong = flows.flatMap((flow) => {
      const twice = flow.filter(({ file }, at) => flow.findIndex((one) => one.file === file) !== at);
      const gone = flow.filter(({ file }) => !existsSync(path.join(root, file)));
      const unknown = flow.flatMap(({ file, depth }, at) => {
        const caller = flow.slice(0, at).findLast((one) => one.depth === depth - 1);
        if (depth === 0 || !caller || calls(caller.file, file)) return [];
        return [`${caller.file} does not import ${file}`];
      });
      return [...twice.map(({ file }) => `${file} twice`), ...gone.map(({ file }) => `no ${file}`), ...unknown];
    });
    expect(wrong).toEqual([]);
  });
});

/** Whether a file imports another, by its path or by the name of what it is exported from. */
function calls(from: string, to: string): boolean {
  const source = { file: from, text: readFileSync(path.join(root, from), "utf8") };
  const direct = importsOf(source);
  if (direct.includes(to)) return true;
  const index = `${path.posix.dirname(to)}/index.ts`;
  if (direct.includes(index)) return true;
  const named = [...source.text.matchAll(/from "@still-pine\/([^"]+)"/g)].map((match) => match[1] ?? "");
  return named.some((name) => index === `${name.replace("/", "/src/")}/index.ts`);
}
