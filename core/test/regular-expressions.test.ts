// @long: left out of npm run test:quick.
/** No regular expression of ours takes a hostile text more than a time in its length; nor does a wildcard. */
import fs from "node:fs";
import path from "node:path";
import { parse } from "@babel/parser";
import { guessFormat } from "../src/intake/deliver";
import { wildcard } from "../src/math/words";

process.env.RECHECK_SYNC_BACKEND = "pure";
const root = path.join(__dirname, "../..");

/** Each once, with where it stands first. */
function written(): Map<string, string> {
  const found = new Map<string, string>();
  const visit = (folder: string) => {
    for (const entry of fs.readdirSync(folder, { withFileTypes: true })) {
      const name = path.join(folder, entry.name);
      if (entry.isDirectory()) {
        if (!["node_modules", "test", "dist"].includes(entry.name) && !entry.name.startsWith(".")) visit(name);
      } else if (/\.tsx?$/.test(name)) {
        const code = fs.readFileSync(name, "utf8"),
          { tokens } = parse(code, { sourceType: "module", plugins: ["typescript", "jsx"], tokens: true });
        for (const { type, value, loc } of tokens as Token[])
          if (type.label === "regexp") {
            const key = `/${value.pattern}/${value.flags}`;
            if (!found.has(key)) found.set(key, `${path.relative(root, name)}:${loc.start.line}`);
          }
      }
    }
  };
  for (const folder of ["core/src", "web", "db/src", "paper/src", "cli/src"]) visit(path.join(root, folder));
  return found;
}
interface Token {
  type: { label: string };
  value: { pattern: string; flags: string };
  loc: { start: { line: number } };
}

test("each regular expression ends in a time linear in the text", async () => {
  const { checkSync } = await import("recheck"),
    slow: string[] = [];
  const all = written();
  expect(all.size).toBeGreaterThan(100);
  for (const [key, where] of all) {
    const end = key.lastIndexOf("/"),
      // What the automaton is too large for is tried with texts; the same ones each time.
      told = checkSync(key.slice(1, end), key.slice(end + 1), { timeout: 60_000, randomSeed: 1 });
    if (told.status !== "safe") slow.push(`${where} ${key}`);
  }
  expect(slow).toEqual([]);
});

test("a wildcard of many stars ends on a text that almost fits", () => {
  const fits = wildcard(`${"*a".repeat(500)}*b`);
  expect([fits("a".repeat(20_000)), fits(`${"a".repeat(20_000)}b`)]).toEqual([false, true]);
});

test.each([
  ["999\nmade by hand\n0\nSECTION\n", "dxf"],
  ["999\r\nmade by hand\r\n999\r\n\r\n  0\r\nSECTION\r\n2\r\nENTITIES", "dxf"],
  ["  0\n\nSECTION\n", "dxf"],
  ["0\nSECTIONS\n", "delimited"],
  ["999\n0\nSECTION\n", "delimited"],
  // Each remark could once be read in two ways: a few dozen of them took for ever.
  [`${"999\r\n\r\n".repeat(5000)}1,2,3\n`, "delimited"],
])("what a file is is found at once (%#)", (text, format) => {
  expect(guessFormat(new TextEncoder().encode(text))).toBe(format);
});
