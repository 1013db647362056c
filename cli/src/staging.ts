/** Outputs are written beside their place and put there only when all are made, each whole or not at all. */
import fs from "node:fs";
import path from "node:path";
import { refusal } from "@bramble/core";

export class Staging {
  private readonly waiting: { temporary: string; target: string }[] = [];
  private readonly targets = new Set<string>();

  constructor(private readonly folder: string) {}

  /** Stages one file; `name` must stay inside the folder. */
  add(name: string, bytes: Uint8Array, asker: string): void {
    const target = path.resolve(this.folder, name);
    const inside = path.relative(this.folder, target);
    if (inside === "" || inside.startsWith("..") || path.isAbsolute(inside) || name.includes("\0"))
      throw refusal("recipe-outside", { path: asker, file: name });
    if (this.targets.has(target)) throw refusal("recipe-field", { path: asker, why: `“${name}” is written twice` });
    this.targets.add(target);
    try {
      fs.mkdirSync(path.dirname(target), { recursive: true });
      this.refuseLinks(path.dirname(target), asker, name);
      const temporary = path.join(path.dirname(target), `.${path.basename(target)}.${process.pid}.part`);
      fs.writeFileSync(temporary, bytes, { flag: "wx" });
      this.waiting.push({ temporary, target });
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code === undefined) throw e;
      throw refusal("file-unreadable", {
        file: name,
        why: `it cannot be written (${(e as NodeJS.ErrnoException).code})`,
      });
    }
  }

  /** A folder that is a link could lead outside. */
  private refuseLinks(folder: string, asker: string, name: string): void {
    const real = fs.realpathSync(folder),
      root = fs.realpathSync(this.folder);
    if (real !== root && !real.startsWith(root + path.sep))
      throw refusal("recipe-outside", { path: asker, file: name });
  }

  commit(): void {
    for (const { temporary, target } of this.waiting.splice(0)) fs.renameSync(temporary, target);
  }

  /** Takes away what was not put in place. */
  clear(): void {
    for (const { temporary } of this.waiting.splice(0)) fs.rmSync(temporary, { force: true });
  }
}
