/** The look before commit says what the same step would do, without doing it. */
import { runOf, told } from "../job";
import fc from "fast-check";
import { GENERAL_BOOK, lookAt, textOfRows, type Look, type LookJob, type RecipeIntake } from "../../src";
import { exchangedRows, sortedPositions } from "../../src/checks/axes";
import { likenessOf, recognise } from "../../src/intake/recognise";
import { openRecipe } from "../../src/job/recipe/recipe";

import { surveyXml } from "../survey";

const utf8 = (text: string) => new TextEncoder().encode(text);
const EN = ["number", "easting", "northing", "elevation", "description"] as const;
const layout = { delimiter: ",", columns: [...EN] };

function jobOf(text: string): LookJob {
  return openRecipe({ recipe: 1, codeBook: GENERAL_BOOK, intakes: [{ id: "day1", file: "day1.csv", layout }] }, () =>
    utf8(text),
  ).state;
}
const look = (text: string, given: Partial<RecipeIntake> = {}, job = jobOf(SITE)): Look =>
  lookAt(job, utf8(text), { id: "look", file: "day2.csv", layout, ...given }, { firstId: 1 });
const SITE = Array.from(
  { length: 40 },
  (_, i) => `${i + 1},${3000 + (i % 8) * 10},${7000 + Math.floor(i / 8) * 10},${100 + i / 40},SPOT`,
).join("\n");

test("counts, refused rows with their text, and codes: known, by alias, unknown with the nearest", () => {
  const text = "91,3001,7001,100,SPOT\n92,3002,x,100,SPOT\n93,3003,7003,,SPTO\n94,3004,7004,100,TREE 4";
  const l = look(text);
  expect(l).toMatchObject({
    rows: 4,
    points: 3,
    withoutElevation: 1,
    refused: [{ row: 2, reason: "the northing is “x”, which is not a number" }],
  });
  expect(l.problem).toBeUndefined();
  expect(textOfRows(utf8(text), [2]).get(2)).toBe("92,3002,x,100,SPOT");
  expect(l.codes.map((c) => [c.written, c.by, c.nearest])).toEqual([
    ["SPTO", "unknown", "SPOT"],
    ["SPOT", "code", undefined],
    ["TREE", "code", undefined],
  ]);
});

test("clashes with the job and within the file, under the file's own numbers, with both places", () => {
  const l = look("1,3500,7001,100,SPOT\n77,3002,7002,100,SPOT\n77,3002,7005,101,SPOT\n2,3010,7000,90,SPOT");
  expect(l.points).toBe(4);
  expect(l.clashes.map((c) => [c.number, c.row, c.e - c.there.e, c.n - c.there.n, c.there.from])).toEqual([
    ["1", 1, 500, 1, "day1.csv"],
    ["77", 3, 0, 3, "this file"],
    ["2", 4, 0, 0, "day1.csv"],
  ]);
});

test("exchanged axes: a whole file, single rows, and never rows that lie right", () => {
  const whole = look("91,7001,3001,100,SPOT\n92,7011,3011,100,SPOT");
  expect(whole.exchanged).toEqual([1, 2]);
  expect(look("91,3001,7001,100,SPOT\n92,7011,3011,100,SPOT\n93,3200,7000,1,SPOT").exchanged).toEqual([2]);
  // A job on the diagonal cannot tell, and does not guess.
  const square = jobOf("1,0,0,1,a\n2,100,0,1,a\n3,0,100,1,a\n4,100,100,1,a");
  expect(look("9,10,90,1,a", {}, square).exchanged).toEqual([]);
});

test("a few exchanged rows, and as many as one in six, do not hide behind their own delivery", () => {
  const rows = (bad: number) =>
    Array.from({ length: 83 }, (_, k) => {
      const e = 3000 + ((k * 37) % 200),
        n = 7000 + ((k * 53) % 150);
      return k < bad ? `${k},${n},${e},100,SPOT` : `${k},${e},${n},100,SPOT`;
    }).join("\n");
  for (const bad of [0, 2, 14]) {
    const state = openRecipe({ recipe: 1, intakes: [{ id: "day1", file: "day1.csv", layout }] }, () =>
      utf8(rows(bad)),
    ).state;
    expect(
      told(runOf(state))
        .filter((f) => f.kind === "axes-swapped")
        .flatMap((f) => f.points),
    ).toEqual(Array.from({ length: bad }, (_, k) => String(k)));
  }
});

test("where the job holds ten points and more, it is their box that counts, widened by its own size; of fewer nothing is known", () => {
  const site = (count: number) =>
    jobOf(
      Array.from(
        { length: count },
        (_, k) => `${k},${3000 + 100 * (k % 2)},${7000 + 100 * ((k >> 1) & 1)},1,SPOT`,
      ).join("\n"),
    );
  // 90 m beyond the box of 100 m: exchanged it would lie with the rest. 110 m beyond it would not.
  expect(look("91,7190,3190,1,a", {}, site(12)).exchanged).toEqual([1]);
  expect(look("91,7210,3210,1,a", {}, site(12)).exchanged).toEqual([]);
  expect(look("91,7050,3050,1,a", {}, site(9)).exchanged).toEqual([]);
});

test("axes are told as a finding of the job until they are put right", () => {
  const job = openRecipe(
    { recipe: 1, codeBook: GENERAL_BOOK, intakes: [{ id: "day1", file: "day1.csv", layout }] },
    () => utf8(`${SITE}\n99,7020,3020,100,SPOT`),
  ).state;
  const found = told(runOf(job)).filter((f) => f.kind === "axes-swapped");
  expect(found.map((f) => f.points)).toEqual([["99"]]);
});

test("values out of the ordinary: precision, target height, elevation, a crew's range", () => {
  const job = { ...jobOf(SITE), crews: [{ crew: "B", from: 50, to: 99 }] };
  const columns = [...EN, "precision", "targetHeight"];
  const l = look(
    "60,3001,7001,100,SPOT,0.2,1.5\n61,3001,7002,100,SPOT,0.01,15\n62,3001,7003,900,SPOT,0.01,1.5\n120,3001,7004,100,SPOT,0.01,1.5",
    { layout: { delimiter: ",", columns: columns as never }, crew: "B" },
    job,
  );
  expect(l.values.map((v) => [v.number, v.what])).toEqual([
    ["60", "precision"],
    ["61", "target height"],
    ["62", "elevation"],
    ["120", "number"],
  ]);
});

test("numbers outside a crew's range stay a finding of the job", () => {
  const state = openRecipe(
    {
      recipe: 1,
      crews: [{ crew: "A", from: 1, to: 10 }],
      intakes: [{ id: "day1", file: "day1.csv", crew: "A", layout }],
    },
    () => utf8("9,0,0,1,a\n11,5,5,1,a\nK7,5,9,1,a"),
  ).state;
  expect(
    told(runOf(state))
      .filter((f) => f.kind === "outside-range")
      .map((f) => f.points),
  ).toEqual([["11"]]);
});

test("lines that will come are those that come", () => {
  const text = "1,0,0,1,HEDGE1\n2,10,0,1,HEDGE1\n3,20,0,1,HEDGE1 end\n4,0,5,1,FENCE2";
  const l = look(text, {}, jobOf("900,500,500,1,SPOT"));
  expect(l.drawn).toMatchObject([{ code: "HEDGE", count: 1, length: 20 }]);
  expect(l.alone).toEqual(["4"]);
});

test("setups are reduced for the look, and a problem is a sentence in it", () => {
  const K1 = { number: "K1", e: 3000, n: 7000, z: 100 },
    K2 = { number: "K2", e: 3080, n: 7040, z: 101 };
  const xml = surveyXml(
    [K1, K2],
    [
      {
        id: "one",
        at: K1,
        height: 1.5,
        zero: 0,
        backsight: K2,
        targets: [{ number: "501", e: 3020, n: 7010, z: 99, height: 1.5, faces: 1 }],
      },
    ],
  );
  const l = look(xml, { file: "day2.xml", layout: undefined });
  expect(l).toMatchObject({ format: "landxml", points: 3, setups: [{ id: "one", shots: 2, outlying: [] }] });
  expect(look("", {}).problem).toContain("is empty");
  expect(look("1,2\n", { layout: { delimiter: ",", columns: ["number", "easting"] } }).problem).toContain(
    "no column for northing",
  );
});

test("the look promises exactly what taking in gives", () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ n: fc.integer({ min: 30, max: 60 }), e: fc.integer({ min: 2900, max: 3200 }), bad: fc.boolean() }),
        { minLength: 1, maxLength: 25 },
      ),
      (rows) => {
        const text = rows.map((r) => `${r.n},${r.e},${r.bad ? "?" : 7000},100,SPOT`).join("\n"),
          l = look(text);
        const taken = openRecipe(
          {
            recipe: 1,
            intakes: [
              { id: "day1", file: "day1.csv", layout },
              { id: "two", file: "day2.csv", layout, clash: "add" },
            ],
          },
          (name) => utf8(name === "day1.csv" ? SITE : text),
        ).state.intakes[1]!;
        expect([l.rows, l.points, l.refused]).toEqual([taken.rows, taken.points, taken.refused]);
      },
    ),
    { numRuns: 60 },
  ));

describe("kept layouts are recognised", () => {
  const semicolon = {
    delimiter: ";",
    decimal: "," as const,
    skipRows: 1,
    columns: ["number", "easting", "northing", "elevation"] as never,
  };
  const first = utf8("Nr;Ost;Nord;Z\n1;1,5;2,5;3\n");
  const kept = [
    { name: "rover", format: "delimited" as const, layout: semicolon, likeness: likenessOf(first, semicolon) },
    { name: "plain", format: "delimited" as const, layout: { delimiter: ",", columns: [...EN] }, likeness: "" },
  ];
  test("by their line of heads, else by rows that fit", () => {
    expect(recognise(utf8("NR;Ost;Nord;Z\n7;8,5;9,25;1\n"), kept)?.name).toBe("rover");
    expect(recognise(utf8("7,8,9,1,SPOT\n8,9,1,2,TREE\n"), kept)?.name).toBe("plain");
    expect(recognise(utf8("7,8,9,1\n8,9,1,2\n"), kept)).toBeUndefined();
    expect(recognise(utf8("a;b;c;d\n7;8;9;1\n"), kept)).toBeUndefined();
    expect(recognise(utf8("<LandXML/>"), kept)).toBeUndefined();
  });
});

test("exchanging twice is nothing: points told as exchanged lie right when exchanged", () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(fc.double({ min: 3000, max: 3400, noNaN: true }), fc.double({ min: 7000, max: 7300, noNaN: true })),
        { minLength: 5, maxLength: 40 },
      ),
      (places) => {
        const t = jobOf(places.map(([e, n], i) => `${i},${e},${n},1,a`).join("\n")).points,
          known = sortedPositions(t),
          rows = Int32Array.from(t.id, (_, i) => i);
        const turned = { ...t, e: t.n, n: t.e };
        expect(exchangedRows(t, rows, known, known)).toEqual([]);
        for (const i of exchangedRows(turned, rows, known, known))
          expect([turned.n[i], turned.e[i]]).toEqual([t.e[i], t.n[i]]);
      },
    ),
    { numRuns: 60 },
  ));
