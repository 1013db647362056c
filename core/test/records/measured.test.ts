/** What the field says of how points were measured: from the file through the table to files, and what is made of it. */
import fc from "fast-check";
import { writeHandover, type Recipe } from "../../src";
import { COLUMNS, meaningOfHead } from "../../src/intake/columns";
import { readDelimited } from "../../src/intake/delimited";
import { guessLayout } from "../../src/intake/guess";
import type { Column, Layout } from "../../src/intake/model";
import { FIELDS, READ_FIELDS } from "../../src/records/fields";
import {
  MEASURED,
  MEASURED_FIELDS,
  measuredAt,
  measuredOf,
  putMeasured,
  type MeasuredField,
} from "../../src/records/measured";
import { pickRecords, scaleRecords } from "../../src/records/records";
import { levelPrecision, worstPrecision } from "../../src/points/precision";
import { concatTables, pickRows, rowOf, tableOf, type PointTable } from "../../src/points/table";
import { shotPrecision } from "../../src/volumes/precision";
import { sentenceOf } from "../../src/finding";
import { runOf, stateOfText } from "../job";

const utf8 = (s: string) => new TextEncoder().encode(s);
type Values = Partial<Record<MeasuredField, string | number>>;

/** What a point may have of each field. */
const values: fc.Arbitrary<Values> = fc
  .record(
    Object.fromEntries(
      MEASURED_FIELDS.map((f) => {
        const m = measuredOf(f);
        return [
          f,
          m.is === "text"
            ? fc.constantFrom("fixed", "float", "by tape", "é “x”")
            : fc.integer({ min: m.least === undefined ? -900 : 0, max: 900 }).map((x) => ("whole" in m ? x : x / 8)),
        ];
      }),
    ) as Record<MeasuredField, fc.Arbitrary<string | number>>,
    { requiredKeys: [] },
  )
  .map((v) => v as Values);

function tableWith(rows: readonly Values[], first = 1): PointTable {
  const t = { ...tableOf(rows.length), measured: {} as PointTable["measured"] };
  t.number = rows.map((_, i) => String(first + i));
  rows.forEach((_, i) => (t.id[i] = first + i));
  rows.forEach((v, i) =>
    putMeasured(t.measured, rows.length, i, v as Record<string, string | number>, (text) => {
      const at = t.texts.indexOf(text);
      return at >= 0 ? at : t.texts.push(text) - 1;
    }),
  );
  return t;
}
const told = (t: PointTable) => Array.from({ length: t.count }, (_, i) => measuredAt(t.measured, i, t.texts) ?? {});

test("tables joined and rows picked tell of each point what was said of it, and have no column that nobody needs", () => {
  fc.assert(
    fc.property(
      fc.array(values, { maxLength: 6 }),
      fc.array(values, { maxLength: 6 }),
      fc.infiniteStream(fc.nat()),
      (a, b, s) => {
        const all = concatTables(tableWith(a), tableWith(b, 100)),
          rows = [...a, ...b];
        expect(told(all)).toEqual(rows);
        const picked = rows.map((_, i) => i).filter(() => s.next().value % 2 === 0),
          some = pickRows(all, picked);
        expect(told(some)).toEqual(picked.map((i) => rows[i]));
        expect(Object.keys(some.measured).sort()).toEqual(
          [...new Set(picked.flatMap((i) => Object.keys(rows[i]!)))].sort(),
        );
      },
    ),
  );
});

const columns: Column[] = ["number", "easting", "northing", "elevation", ...MEASURED_FIELDS];
const lineOf = (v: Values, i: number) => [i + 1, i, 2 * i, 5, ...MEASURED_FIELDS.map((f) => v[f] ?? "")].join(";");
const layout: Layout = { delimiter: ";", columns };

test("what a file says is read, and lengths alone follow its unit", () => {
  fc.assert(
    fc.property(fc.array(values, { minLength: 1, maxLength: 8 }), (rows) => {
      const r = readDelimited("f.csv", utf8(rows.map(lineOf).join("\n")), layout);
      expect([r.refused, r.notes]).toEqual([[], []]);
      expect(rows.map((_, i) => measuredAt(r.measured, i, r.texts) ?? {})).toEqual(rows);
      const scaled = scaleRecords(r, 0.25);
      expect(rows.map((_, i) => measuredAt(scaled.measured, i, scaled.texts) ?? {})).toEqual(
        rows.map((v) =>
          Object.fromEntries(
            Object.entries(v).map(([f, x]) => [f, measuredOf(f as MeasuredField).is === "length" ? Number(x) / 4 : x]),
          ),
        ),
      );
      const keep = Uint8Array.from(rows, (_, i) => (i + 1) % 2),
        kept = pickRecords(r, keep);
      expect(Array.from({ length: kept.count }, (_, i) => measuredAt(kept.measured, i, kept.texts) ?? {})).toEqual(
        rows.filter((_, i) => keep[i]),
      );
    }),
  );
});

test("a value that cannot be read is left blank and counted; the point is there", () => {
  const r = readDelimited(
    "f.csv",
    utf8("1,0,0,5,7.5,-0.01,fixed\n2,0,1,5,x,0.02,\n3,0,2,5,-1,0.03,float\n4,0,3,5,9,,float"),
    { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "satellites", "precisionPlan", "fix"] },
  );
  expect([r.count, r.refused]).toEqual([4, []]);
  expect([0, 1, 2, 3].map((i) => measuredAt(r.measured, i, r.texts))).toEqual([
    { fix: "fixed" },
    { precisionPlan: 0.02 },
    { precisionPlan: 0.03, fix: "float" },
    { satellites: 9, fix: "float" },
  ]);
  expect(r.notes).toEqual([
    "1 value of plan precision could not be read and is left blank.",
    "3 values of satellites could not be read and are left blank.",
  ]);
});

test("a column in which nothing stands is none", () => {
  const r = readDelimited("f.csv", utf8("1,0,0,5,,,\n2,0,1,5,,0.5,"), {
    delimiter: ",",
    columns: ["number", "easting", "northing", "elevation", "satellites", "tilt", "fix"],
  });
  expect(Object.keys(r.measured)).toEqual(["tilt"]);
});

test("each heading means one column, those that describe it themselves among them", () => {
  const own = [
    ...READ_FIELDS.map((f) => [f, FIELDS[f].heads] as const),
    ...MEASURED_FIELDS.map((f) => [f, MEASURED[f].heads] as const),
  ];
  for (const [column, heads] of own)
    for (const head of heads.split(" ").filter((h) => /^\w+$/.test(h)))
      expect([head, meaningOfHead(head)]).toEqual([head, column]);
  expect(new Set(COLUMNS).size).toBe(COLUMNS.length);
  const guessed = guessLayout(
    utf8("Point,East,North,RL,Plan precision,Satellites,Fix\n1,0.5,0.25,5,0.01,9,fixed\n"),
    "EN",
  );
  expect(guessed.columns).toEqual(["number", "easting", "northing", "elevation", "precisionPlan", "satellites", "fix"]);
});

const recipe: Partial<Recipe> = {
  intakes: [
    {
      id: "day1",
      file: "day1.csv",
      unit: "ft",
      layout: {
        delimiter: ",",
        columns: [
          "number",
          "easting",
          "northing",
          "elevation",
          "description",
          "precision",
          "precisionPlan",
          "precisionLevel",
          "satellites",
          "tilt",
          "way",
        ],
      },
    },
  ],
  sets: [{ name: "poor", rule: { precision: [0.05, null] } }],
  handover: [
    { file: "p.csv", format: "csv", columns: ["number", "precisionPlan", "satellites", "tilt", "way"], decimals: 3 },
  ],
};
const text = [
  "1,0,0,5,SPOT,0.01,,,9,12.5,pole",
  "2,10,0,5,SPOT,0.01,0.5,,,,",
  "3,10,10,5,SPOT,0.5,0.01,0.02,11,-3,tape",
  "4,0,10,5,SPOT,,,0.9,8,,pole",
].join("\n");

test("of plan and level alone goes before both: in findings, sets and the ± of levels", async () => {
  const state = stateOfText(text, recipe),
    derived = runOf(state),
    t = state.points,
    ft = 0.3048;
  const level = shotPrecision(t, undefined, "m").of;
  for (const [i, [wanted, worst]] of [
    [0.01, 0.01],
    [0.01, 0.5],
    [0.02, 0.5],
    [0.9, 0.9],
  ].entries()) {
    expect(level(i)).toBeCloseTo(wanted! * ft, 12);
    expect(levelPrecision(t, i)).toBe(level(i));
    expect(worstPrecision(t, i).value).toBeCloseTo(worst! * ft, 12);
  }
  const found = derived.findings.filter((f) => f.kind === "precision");
  expect(
    found.map((f) => [
      t.number[rowOf(t, f.points[0]!)],
      sentenceOf(f, { point: String, line: String })
        .split(" of ")[0]!
        .replace(/.*has a /, ""),
    ]),
  ).toEqual([
    ["2", "plan precision"],
    ["3", "precision"],
    ["4", "level precision"],
  ]);
  const [poor] = derived.madeSets;
  expect(poor!.ok && Array.from(poor!.value, (i) => t.number[i])).toEqual(["2", "3", "4"]);
  const { bytes } = await writeHandover(state.handover[0]!, state, derived, { sha256: async () => "" } as never);
  expect(new TextDecoder().decode(bytes).trim().split(/\r?\n/)).toEqual([
    "number,precisionPlan,satellites,tilt,way",
    "1,,9,12.5,pole",
    "2,0.152,,,",
    "3,0.003,11,-3,tape",
    "4,,8,,pole",
  ]);
});
