/** Templates of notes, as RECIPE.md has them: `{kind} {height:1} m[, ⌀{diameter:2}]`. */
import { formatFixed } from "../math/round";

type Part = { text: string } | { name: string; decimals: number | undefined } | { optional: Part[] };

export interface Template {
  parts: Part[];
  /** Names that it asks for. */ names: string[];
}

export type ReadTemplate = { template: Template } | { problem: string };

/** Reads a template; a bracket or brace that is not closed is told in a sentence. */
export function readTemplate(source: string): ReadTemplate {
  const names: string[] = [];
  const stack: Part[][] = [[]];
  const add = (p: Part) => stack.at(-1)!.push(p);
  let plain = "";
  const flush = () => {
    if (plain) add({ text: plain });
    plain = "";
  };
  for (let i = 0; i < source.length; i++) {
    const c = source[i]!;
    if (c === "{") {
      const end = source.indexOf("}", i);
      if (end < 0) return { problem: `A { at letter ${i + 1} is not closed by a }.` };
      const inside = source.slice(i + 1, end),
        [name, decimals, ...more] = inside.split(":").map((x) => x.trim()),
        isWritten = name !== "" && !/[{}[\]]/.test(name!) && (decimals === undefined || /^\d{1,2}$/.test(decimals));
      if (!isWritten || more.length) return { problem: `{${inside}} is not written as {name} or {name:2}.` };
      flush();
      names.push(name!);
      add({ name: name!, decimals: decimals === undefined ? undefined : Number(decimals) });
      i = end;
    } else if (c === "[") {
      flush();
      stack.push([]);
    } else if (c === "]" && stack.length > 1) {
      flush();
      const optional = stack.pop()!;
      add({ optional });
    } else if (c === "}" || c === "]") return { problem: `A ${c} at letter ${i + 1} closes nothing.` };
    else plain += c;
  }
  if (stack.length > 1) return { problem: "A [ is not closed by a ]." };
  flush();
  return { template: { parts: stack[0]!, names } };
}

/**
 * The note with values filled in; "" for a missing value, and nothing of a part in brackets that misses one. Blanks
 * left by missing values are closed up.
 */
export function fillTemplate(template: Template, valueOf: (name: string) => string | number | undefined): string {
  const fill = (parts: readonly Part[]): { text: string; missing: boolean } => {
    let text = "",
      missing = false;
    for (const p of parts) {
      if ("text" in p) text += p.text;
      else if ("optional" in p) {
        const inner = fill(p.optional);
        if (!inner.missing) text += inner.text;
      } else {
        const value = valueOf(p.name),
          written = value === undefined ? "" : withDecimals(value, p.decimals);
        if (written === "") missing = true;
        text += written;
      }
    }
    return { text, missing };
  };
  return fill(template.parts).text.replace(/\s+/g, " ").trim();
}

function withDecimals(value: string | number, decimals: number | undefined): string {
  const number =
    typeof value === "number" ? value : /^[+-]?(\d+(?:\.\d*)?|\.\d+)$/.test(value.trim()) ? Number(value) : NaN;
  if (typeof value === "number" && !Number.isFinite(value)) return "";
  return decimals === undefined || Number.isNaN(number) ? String(value).trim() : formatFixed(number, decimals);
}
