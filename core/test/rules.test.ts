/** The dependency rule of docs/architecture.md, kept by reading the imports. */
import fs from "node:fs";
import path from "node:path";

const root = path.join(__dirname, "../..");

function sources(folder: string): string[] {
  return fs
    .readdirSync(path.join(root, folder), { withFileTypes: true, recursive: true })
    .filter(
      (f) =>
        f.isFile() &&
        /\.tsx?$/.test(f.name) &&
        !f.parentPath.includes("node_modules") &&
        !f.parentPath.includes(".next"),
    )
    .map((f) => path.join(f.parentPath, f.name));
}

interface Import {
  from: string;
  to: string;
  typeOnly: boolean;
}

function imports(folder: string): Import[] {
  return sources(folder).flatMap((file) =>
    [...fs.readFileSync(file, "utf8").matchAll(/^(import|export)\s+(type\s+)?[^;]*?from\s+"([^"]+)"/gm)].map((m) => ({
      from: path.relative(root, file),
      to: m[3]!,
      typeOnly: m[2] !== undefined,
    })),
  );
}

/** The stages in the order of the data's way; what all may use stands at 0. */
const STAGES = [
  "math",
  "records",
  "intake",
  "points",
  "codes",
  "lines",
  "sets",
  "surface",
  "volumes",
  "construct",
  "checks",
  "drawing",
  "handover",
  "job",
];
const stageOf = (file: string) => STAGES.indexOf(file.split(path.sep)[2]!);

test("the core takes nothing from Node, the page, React or the database", () => {
  const allowed = new Set([
    "robust-predicates",
    "ajv",
    "saxes",
    "sql.js",
    "sql.js/dist/sql-wasm-inline.js",
    "read-excel-file/universal",
    "write-excel-file/universal",
    "papaparse",
    "fflate",
    "crc-32",
    "proj4",
    "proj4-list",
    "polylabel",
    "flatbush",
    "flatqueue",
    "kdbush",
  ]);
  const outside = imports("core/src").filter((i) => !i.to.startsWith(".") && !allowed.has(i.to));
  expect(outside).toEqual([]);
  const globals = sources("core/src").filter((f) =>
    /(?<![.\w])(window|document|process|Buffer|fetch|localStorage)\./.test(fs.readFileSync(f, "utf8")),
  );
  expect(globals).toEqual([]);
});

const within = (i: Import) =>
  i.to.startsWith(".") ? `${path.relative(root, path.resolve(root, path.dirname(i.from), i.to))}.ts` : undefined;

test("a stage knows only stages before it, types too; predicates have one import site", () => {
  const backwards = imports("core/src").filter((i) => {
    const target = within(i),
      a = stageOf(i.from);
    return target !== undefined && a >= 0 && stageOf(target) > a;
  });
  expect(backwards).toEqual([]);
  expect(
    imports("core/src")
      .filter((i) => i.to === "robust-predicates")
      .map((i) => i.from),
  ).toEqual([path.join("core", "src", "math", "predicates.ts")]);
});

/** What a relative import leads to, whatever its ending. */
function fileOf(i: Import): string | undefined {
  if (!i.to.startsWith(".")) return undefined;
  const base = path.resolve(root, path.dirname(i.from), i.to.replace(/\.tsx?$/, "")),
    found = [".ts", ".tsx", "/index.ts"].map((end) => base + end).find((f) => fs.existsSync(f));
  return found && path.relative(root, found);
}

test.each(["core/src", "paper/src", "db/src", "web"])("no file of %s leads back to itself", (folder) => {
  const next = new Map<string, string[]>();
  for (const i of imports(folder)) {
    const target = fileOf(i);
    if (target) next.set(i.from, [...(next.get(i.from) ?? []), target]);
  }
  expect(next.size).toBeGreaterThan(3);
  // Leaves are taken away until none is left; what stays is in a circle or leads to one.
  const files = new Set([...next.keys(), ...[...next.values()].flat()]);
  for (let count = -1; count !== files.size;) {
    count = files.size;
    for (const f of files) if (!(next.get(f) ?? []).some((t) => files.has(t))) files.delete(f);
  }
  expect([...files]).toEqual([]);
});

test("the server and the window share what is sent and nothing else; each room of the window knows those below it", () => {
  const SERVER = ["server", "heavy", "api"],
    // What stands on one floor may know one another.
    FLOORS = [["sent"], ["lib", "workers"], ["controls"], ["sheet"], ["bench"], ["panel"], ["components"]];
  const roomOf = (file: string) => {
      const [, room, within] = file.split(path.sep);
      return room === "app" && within === "api" ? "api" : room!;
    },
    floorOf = (room: string) => FLOORS.findIndex((rooms) => rooms.includes(room));
  const between = imports("web")
    .filter((i) => !i.from.includes(`${path.sep}test${path.sep}`))
    .flatMap((i) => {
      const target = fileOf(i);
      return target ? [{ from: i.from, target, rooms: [roomOf(i.from), roomOf(target)] as const }] : [];
    })
    .filter(({ rooms: [a, b] }) => a !== b);
  expect(between.length).toBeGreaterThan(300);
  expect(between.filter(({ rooms: [a, b] }) => SERVER.includes(a) && floorOf(b) > 0)).toEqual([]);
  expect(between.filter(({ rooms: [a, b] }) => floorOf(a) >= 0 && SERVER.includes(b))).toEqual([]);
  expect(between.filter(({ rooms: [a, b] }) => floorOf(a) >= 0 && floorOf(b) > floorOf(a))).toEqual([]);
  // No room is forgotten: besides these there are pages, and what Next.js asks for by name.
  const rooms = new Set(between.flatMap(({ rooms }) => rooms));
  expect([...rooms].filter((r) => floorOf(r) < 0 && !SERVER.includes(r) && !/^app$|\.ts$/.test(r))).toEqual([]);
});

test("one room of fields: what is typed, chosen or ticked is one of web/controls/fields, but for what is no field of a form", () => {
  const OTHERS = [
    // The search of everything, the cell that is edited in the table, and the browser's own choice of a file.
    "web/components/GoTo.tsx",
    "web/bench/table/GridRow.tsx",
    "web/controls/FileInput.tsx",
  ];
  const own = sources("web")
    .map((f) => path.relative(root, f))
    .filter((f) => f.endsWith(".tsx") && !f.startsWith("web/controls/fields/") && !OTHERS.includes(f));
  expect(
    own.filter((f) => /<(input|select|textarea|datalist)\b/.test(fs.readFileSync(path.join(root, f), "utf8"))),
  ).toEqual([]);
});

test("web and command never meet; the interface takes only types from the database", () => {
  expect([...imports("cli/src"), ...imports("db/src")].filter((i) => /web|cli/.test(i.to))).toEqual([]);
  // What is printed knows the core alone.
  expect(imports("paper/src").filter((i) => /@bramble\/(?!core)/.test(i.to))).toEqual([]);
  const ui = ["components", "panel", "bench", "sheet", "controls", "lib", "workers"].flatMap((r) =>
    imports(`web/${r}`),
  );
  expect(ui.filter((i) => i.to === "@bramble/db" && !i.typeOnly)).toEqual([]);
  expect(imports("web").filter((i) => /@bramble\/(cli|demo)/.test(i.to))).toEqual([]);
});

test("one word for one thing: code that computes, stores or draws knows rows and positions; a place is one of the work", () => {
  // Texts find their place on paper, and a code's `labelAt` names it in files that offices keep.
  const texts = /^core\/src\/(drawing|codes)\//;
  const found = [...sources("core/src"), ...sources("db/src"), ...sources("web/sheet")]
    .map((file) => path.relative(root, file))
    .filter((file) => !texts.test(file))
    .filter((file) => {
      const code = fs
        .readFileSync(path.join(root, file), "utf8")
        .replace(/\/\*[^]*?\*\/|\/\/.*|"[^"\n]*"|`[^`]*`/g, "")
        .replace(/\bplace: oneOf\(/, "");
      return /\b(places?|[a-z]+Places?|places?Of)\b/.test(code);
    });
  expect(found).toEqual([]);
});

test("the rooms of a job know only rooms before them", () => {
  const ROOMS = ["model", "change", "sync", "recipe", "chain", "edit", "told", "leave"],
    roomOf = (file: string) =>
      file.startsWith(path.join("core", "src", "job")) ? ROOMS.indexOf(file.split(path.sep)[3]!) : -1;
  const all = imports("core/src/job");
  expect(all.length).toBeGreaterThan(100);
  expect(all.filter((i) => roomOf(i.from) < 0)).toEqual([]);
  const backwards = all.filter((i) => {
    const target = within(i);
    return target !== undefined && roomOf(target) > roomOf(i.from);
  });
  expect(backwards).toEqual([]);
});

test("files that comments and documents name are there", () => {
  // Contracts are kept beside the checkout.
  const elsewhere = /^[A-Z-]+\.md$/;
  const roots = ["core", "paper", "db", "web", "cli", "demo", "e2e", "scripts", "docs"],
    all = roots.flatMap((folder) =>
      fs
        .readdirSync(path.join(root, folder), { withFileTypes: true, recursive: true })
        .filter((f) => f.isFile() && !/node_modules|\.next|dist/.test(f.parentPath))
        .map((f) => path.relative(root, path.join(f.parentPath, f.name))),
    ),
    written = all.filter((f) => /\.(ts|tsx|mjs|md|css)$/.test(f));
  const missing = [...written, "README.md"].flatMap((file) => {
    const text = fs.readFileSync(path.join(root, file), "utf8"),
      told = file.endsWith(".md") ? text : (text.match(/\/\*[^]*?\*\/|\/\/.*/g) ?? []).join("\n"),
      names = told.match(/(?<![\w@/.-])(?:[a-z0-9@_-]+\/)*[A-Za-z0-9_-]+\.(?:ts|tsx|mjs|sql|css|svg|md)\b/g) ?? [];
    return names
      .filter((name) => !elsewhere.test(name) && !all.some((f) => f === name || f.endsWith(`/${name}`)))
      .map((name) => `${file} names ${name}`);
  });
  expect(missing).toEqual([]);
});

test("what docs/architecture.md says of a column, a kind of finding and a format is so: it is named there alone", () => {
  const folders = ["core/src", "paper/src", "db/src", "web", "cli/src"],
    code = folders
      .flatMap((f) => sources(f))
      .filter((f) => !f.includes(`${path.sep}test${path.sep}`))
      .map((f) => ({
        file: path.relative(root, f),
        text: fs.readFileSync(f, "utf8").replace(/\/\*[^]*?\*\/|\/\/.*/g, ""),
      })),
    naming = (what: RegExp) => code.filter((c) => what.test(c.text)).map((c) => c.file);
  expect(naming(/\b(satellites|epochs|photo)\b/)).toEqual(["core/src/records/measured.ts"]);
  expect(naming(/\bgpx\b/i).sort()).toEqual([
    "core/src/handover/formats.ts",
    "core/src/handover/gpx.ts",
    "core/src/handover/proof/gpx.ts",
    "core/src/job/leave/handover.ts",
  ]);
  expect(naming(/\bclock-set-back\b/).sort()).toEqual(["core/src/checks/clock.ts", "core/src/finding-kinds.ts"]);
  expect(naming(/\bclocksSetBack\b/).sort()).toEqual(["core/src/checks/clock.ts", "core/src/job/chain/checks.ts"]);
});
