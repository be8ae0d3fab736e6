import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const root = new URL("../..", import.meta.url);

function sources(folder: string): { file: string; text: string }[] {
  return readdirSync(new URL(folder, root), { recursive: true, encoding: "utf8" })
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file))
    .map((file) => ({ file: `${folder}${file}`, text: readFileSync(new URL(folder + file, root), "utf8") }));
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
});
