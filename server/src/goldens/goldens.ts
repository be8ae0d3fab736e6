import { createHash } from "node:crypto";
import { mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";

/**
 * What the product says of fixed input, kept as short prints of its bytes, so that a change behind the screens shows. Used by tests
 * alone, which compare them with a file beside them; `npx vitest run FILE -u` writes it anew where a change was meant. With
 * `GOLDENS=FOLDER` the whole texts are laid down there: those of two commits can then be compared.
 */
export class Goldens {
  private readonly prints = new Map<string, string>();

  /** @param group a folder of its own for the whole texts */
  constructor(private readonly group: string) {}

  /** Keeps what was said under a name. */
  add(name: string, said: string | Uint8Array): void {
    if (this.prints.has(name)) throw new Error(`${name} is there twice`);
    const print = createHash("sha256").update(said).digest("hex").slice(0, 16);
    this.prints.set(name, `${Buffer.byteLength(said)} bytes, ${print}`);
    const folder = process.env["GOLDENS"];
    if (!folder) return;
    const own = path.join(folder, this.group);
    mkdirSync(own, { recursive: true });
    writeFileSync(path.join(own, name.replaceAll(/[^\w.-]+/g, "_")), said);
  }

  /** All of them as the file has them. */
  toString(): string {
    return `${JSON.stringify(Object.fromEntries(this.prints), null, 2)}\n`;
  }
}
