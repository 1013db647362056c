import type { Column, Layout } from "../../src/intake/model";
import fc from "fast-check";
import { readDelimited, readTime } from "../../src/intake/delimited";
import { guessLayout } from "../../src/intake/guess";
import { readNumber } from "../../src/intake/bytes";

const utf8 = (s: string) => new TextEncoder().encode(s);
const COLUMNS: Column[] = ["number", "easting", "northing", "elevation", "description"];
const read = (text: string | Uint8Array, layout: Layout = {}) =>
  readDelimited("f.csv", typeof text === "string" ? utf8(text) : text, { delimiter: ",", columns: COLUMNS, ...layout });
const descriptions = (r: ReturnType<typeof read>) => Array.from(r.description, (d) => r.texts[d]);

describe("delimited text", () => {
  test("what is written is read back, whatever the texts, numbers, delimiter, quotes and line ends", () => {
    const text = fc
      .string({
        unit: fc.constantFrom("a", "B", "7", " ", ",", ";", "\t", '"', "'", "é", "水", "\n", "/", "="),
        maxLength: 12,
      })
      .map((s) => s.trim());
    const row = fc.record({
      number: fc.string({ unit: fc.constantFrom("1", "2", "A", "-", "é"), minLength: 1, maxLength: 5 }),
      e: fc.double({ noNaN: true, noDefaultInfinity: true }),
      n: fc.double({ noNaN: true, noDefaultInfinity: true }),
      z: fc.option(fc.double({ noNaN: true, noDefaultInfinity: true })),
      d: text,
    });
    fc.assert(
      fc.property(
        fc.array(row, { minLength: 1, maxLength: 20 }),
        fc.constantFrom(",", ";", "\t", "|"),
        fc.constantFrom("\n", "\r\n", "\r"),
        fc.boolean(),
        fc.boolean(),
        (rows, delimiter, end, comma, bom) => {
          const decimal = comma && delimiter !== "," ? "," : ".";
          const number = (x: number) => String(x).replace(".", decimal);
          const zero = (x: number) => x + 0; // "−0" is written as "0"
          const quoted = (s: string) => (/[\s,;|"#\t]/.test(s) || s === "" ? `"${s.replaceAll('"', '""')}"` : s);
          const lines = rows.map((r) =>
            [r.number, number(r.e), number(r.n), r.z === null ? "" : number(r.z), quoted(r.d)].join(delimiter),
          );
          const r = read(`${bom ? "\ufeff" : ""}${lines.join(end)}${end}`, { delimiter, decimal });
          expect(r.refused).toEqual([]);
          expect(r.number.all()).toEqual(rows.map((x) => x.number));
          expect(Array.from(r.e)).toEqual(rows.map((x) => zero(x.e)));
          expect(Array.from(r.n)).toEqual(rows.map((x) => zero(x.n)));
          expect(Array.from(r.z)).toEqual(rows.map((x) => zero(x.z ?? NaN)));
          expect(descriptions(r)).toEqual(rows.map((x) => x.d));
        },
      ),
      { numRuns: 300 },
    );
  });

  test("any bytes give rows and refused rows, or a refusal in a sentence", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.constantFrom(",", ";", " "), (bytes, delimiter) => {
        try {
          const r = read(bytes, { delimiter });
          expect(r.count + r.refused.length).toBe(r.rows);
        } catch (e) {
          expect(e).toMatchObject({ code: expect.stringMatching(/^file-/), message: expect.stringContaining("f.csv") });
        }
      }),
      { numRuns: 500 },
    );
  });

  test("a number is the nearest double, as the engine reads it; words are none", () => {
    const digits = fc.string({ unit: fc.constantFrom(..."0123456789"), minLength: 1, maxLength: 12 });
    const parse = (s: string) => readNumber(utf8(s), 0, s.length, 46);
    fc.assert(
      fc.property(
        fc.oneof(
          fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
          fc
            .tuple(fc.bigInt({ min: 0n, max: 10n ** 20n }), fc.integer({ min: 0, max: 12 }))
            .map(([k, d]) => `${k}.${"0".repeat(d)}${k % 1000n}`),
          fc.tuple(digits, digits).map(([whole, part]) => `${whole}.${part}`),
          fc.tuple(fc.integer(), fc.integer({ min: -320, max: 308 })).map(([m, e]) => `${m}e${e}`),
        ),
        (s) => {
          const want = Number(s);
          expect(parse(s)).toBe(Number.isFinite(want) ? want : NaN);
          // While it is cut out of a row: amid it, at its end, with blanks and quotes round it.
          for (const field of [s, `${s} `, ` "${s}"`, `-${s.replace(/^-/, "")}`]) {
            const alone = Number(field.replaceAll('"', ""));
            const r = read(`1,${field},2,${field}`, { columns: ["number", "easting", "northing", "elevation"] });
            if (Number.isFinite(alone)) expect([r.e[0], r.z[0]]).toEqual([alone, alone]);
            else expect(r.refused).toHaveLength(1);
          }
        },
      ),
      { numRuns: 2000 },
    );
    for (const word of ["NaN", "Infinity", "1e400", "7e", "", "-", ".", "1.2.3", "0x10", "1,5", "1e+", "--1", "1 2"])
      expect(parse(word)).toBeNaN();
  });

  test("what cuts or quotes is never part of a number: a decimal sign, a sign or a digit that is the delimiter", () => {
    const numbers = (text: string, layout: Layout) => {
      const r = read(text, { columns: ["number", "easting", "northing", "elevation"], ...layout });
      return [r.number.all(), [...r.e], [...r.n], [...r.z]];
    };
    expect(numbers("7,1,2,3", { decimal: "," })).toEqual([["7"], [1], [2], [3]]);
    expect(numbers("7-1-2-3", { delimiter: "-" })).toEqual([["7"], [1], [2], [3]]);
    expect(numbers("A0102034", { delimiter: "0" })).toEqual([["A"], [1], [2], [34]]);
    expect(numbers("7;-1-;-2-;-3-", { delimiter: ";", quote: "-" })).toEqual([["7"], [1], [2], [3]]);
    expect(numbers("7;1,5;2,25;-3,125", { delimiter: ";", decimal: "," })).toEqual([["7"], [1.5], [2.25], [-3.125]]);
  });

  test("as many rows as there are, also when the first ones are the longest", () => {
    const long = Array.from({ length: 700 }, (_, i) => `L${i},${i},2,3,${"x".repeat(100)}`);
    const short = Array.from({ length: 3000 }, (_, i) => `S${i},${i},2,3,é`);
    const r = read([...long, ...short].join("\n"));
    expect(r.number.all()).toEqual([...long.keys()].map((i) => `L${i}`).concat([...short.keys()].map((i) => `S${i}`)));
    expect([...r.e]).toEqual([...long.keys(), ...short.keys()]);
    expect(descriptions(r)[3699]).toBe("é");
  });

  test("a number in quotes loses them; a precision below zero is refused; one wide letter at the end is read", () => {
    const columns: Column[] = ["number", "easting", "northing", "elevation", "precision", "description"];
    const r = read('"7 ""b""",1,2,3,,A\n8,1,2,3,-0.1,A\n9,1,2,3,0.1,é', { columns });
    expect(r.number.all()).toEqual(['7 "b"', "9"]);
    expect(r.refused).toEqual([{ row: 2, reason: "the precision is “-0.1”, which is not a number" }]);
    expect(descriptions(r)).toEqual(["A", "é"]);
    for (const before of ["", "a", "ab", "abc"])
      expect(descriptions(read(`7,1,2,3,${before}é`))).toEqual([`${before}é`]);
  });

  test("a short row after a long one has none of its fields", () => {
    const columns: Column[] = ["number", "easting", "northing", "elevation", "precision", "note", "attr:SIZE"];
    const r = read('1,1,2,3,0.01,"a ""b""",5\n2,4,5', { columns });
    expect([...r.z, ...r.precision]).toEqual([3, NaN, 0.01, NaN]);
    expect([r.texts[r.note[0]!], r.note[1]]).toEqual(['a "b"', 0]);
    expect(r.attributes.map((a) => [r.texts[a.values[0]!], a.values[1]])).toEqual([["5", 0]]);
  });

  test("rows: what is refused says which row and why", () => {
    const r = read(
      [
        "7,1,2,3,A",
        "",
        "# all of this is a comment",
        ",1,2,3,A",
        "8,east,2,3,A",
        "9,1",
        "10,1,2,high,A",
        "11,1,2",
        "12,1e400,2,3,A",
      ].join("\n"),
    );
    expect(r.number.all()).toEqual(["7", "11"]);
    expect(r.rows).toBe(7);
    expect(r.refused).toEqual([
      { row: 4, reason: "the point number is missing" },
      { row: 5, reason: "the easting is “east”, which is not a number" },
      { row: 6, reason: "the northing is missing" },
      { row: 7, reason: "the elevation is “high”, which is not a number" },
      { row: 9, reason: "the easting is “1e400”, which is not a number" },
    ]);
    expect(r.z[1]).toBeNaN();
  });

  test("several blanks are one delimiter; ends of lines and rows keep their count inside quotes", () => {
    const r = read('  1   10  20   30  SPOT \n2 11 21 31 "two\nlines"\n3 12 22 32 X', { delimiter: " " });
    expect(descriptions(r)).toEqual(["SPOT", "two\nlines", "X"]);
    expect(Array.from(r.row)).toEqual([1, 2, 4]);
  });

  test("a quote that never closes is a plain character; marks for a missing elevation by text and by value", () => {
    const r = read('1,1,2,-9999.00,"5" pipe\n2,1,2,none,A\n3,1,2,0,B', { noElevation: ["-9999", "none"] });
    expect(Array.from(r.z)).toEqual([NaN, NaN, 0]);
    expect(read('1,1,2,3,"open').texts).toContain('"open');
  });

  test("signs of Windows-1252 that Latin-1 lacks are read as such: a euro was a control character", () => {
    const r = read(new Uint8Array([...utf8("1,1,2,3,price "), 0x80, 0x20, 0x91, ...utf8("x"), 0x92, 0x20, 0xe9, 10]));
    expect(descriptions(r)).toEqual(["price € ‘x’ é"]);
  });

  test("Windows-1252 is read with a note; attributes, code with description, precision and time have their columns", () => {
    const r = read(new Uint8Array([...utf8("1,1,2,3,caf"), 0xe9, 10]));
    expect(descriptions(r)).toEqual(["café"]);
    expect(r.notes).toEqual(["The bytes are not UTF-8; they were read as Windows-1252."]);
    const more = read("1,1,2,TREE 4,an old one,0.012,2031-04-17T08:00:05,oak", {
      columns: ["number", "easting", "northing", "code", "description", "precision", "time", "attr:kind"],
    });
    expect([
      descriptions(more)[0],
      more.texts[more.note[0]!],
      more.precision[0],
      more.texts[more.attributes[0]!.values[0]!],
    ]).toEqual(["TREE 4", "an old one", 0.012, "oak"]);
    expect(more.time[0]).toBe(Date.UTC(2031, 3, 17, 8, 0, 5));
    expect(readTime("8:30")).toBe(8.5 * 3.6e6);
    expect(readTime("yesterday")).toBeNaN();
  });

  test.each([
    ["empty", new Uint8Array(0), "file-empty"],
    ["binary", new Uint8Array([80, 75, 3, 4, 0, 0, 1]), "file-binary"],
    ["a line of two megabytes", utf8("x".repeat(2 << 20)), "file-line-too-long"],
  ])("%s: refused", (_, bytes, code) => expect(() => read(bytes)).toThrow(expect.objectContaining({ code })));

  test("a layout without a plan coordinate, or with one twice, is refused", () => {
    expect(() => read("1,2,3", { columns: ["number", "easting", "skip"] })).toThrow(
      "The layout has no column for northing.",
    );
    expect(() => read("1,2,3", { columns: ["number", "easting", "northing", "easting"] })).toThrow(
      "Two columns are both “easting”",
    );
  });
});

describe("guessing the layout", () => {
  test.each([
    [
      "heads in other languages, with accents",
      "Punkt;Höhe;Hochwert;Rechtswert;Bezeichnung\n7;61,25;5040,5;2011,25;SPOT\n8;61,3;5040,5;2011,5;SPOT\n",
      "EN",
      { decimal: ",", skipRows: 1, columns: ["number", "elevation", "northing", "easting", "description"] },
    ],
    [
      "decimal commas in quotes, where commas part the columns",
      'Numéro,Nord,Est,Altitude\n7,"5040,5","2011,25","61,25"\n8,"5041,5","2012,25","61,5"\n',
      "EN",
      { delimiter: ",", decimal: ",", skipRows: 1, columns: ["number", "northing", "easting", "elevation"] },
    ],
    ["heads in any order", "Name;Code;Nord;Rechts\n", "NE", {}],
    [
      "number, northing, easting, elevation, description",
      "1,7075.0,3110.0,92.1,TOE1\n2,7076.5,3111.0,92.2,TOE1\n3,7078.5,3112.0,92.2,SPOT\n",
      "NE",
      { delimiter: ",", columns: ["number", "northing", "easting", "elevation", "description"], skipRows: 0 },
    ],
    [
      "the job's order decides",
      "1,7075.0,3110.0,92.1,TOE1\n2,7076.5,3111.0,92.2,TOE1\n",
      "EN",
      { columns: ["number", "easting", "northing", "elevation", "description"] },
    ],
    [
      "head with attributes",
      "Number,Easting,Northing,Elevation,Description,Precision,attr:kind\n5001,1,2,3,TREE,0.01,oak\n5002,1,2,3,TREE,0.01,oak\n",
      "NE",
      { skipRows: 1, columns: ["number", "easting", "northing", "elevation", "description", "precision", "attr:kind"] },
    ],
    [
      "decimal comma",
      "Crew C;rover\nNo;East;North;Level;Text\n7;2011,25;5040,5;61,25;SPOT\n8;2011,25;5040,5;61,25;SPOT\n",
      "NE",
      {
        delimiter: ";",
        decimal: ",",
        skipRows: 2,
        columns: ["number", "easting", "northing", "elevation", "description"],
      },
    ],
    [
      "blanks",
      "1   10.5  20.5   30.1  SPOT\n2   11.5  21.5   31.1  SPOT\n",
      "NE",
      { delimiter: " ", columns: ["number", "northing", "easting", "elevation", "description"] },
    ],
    ["tabs", "1\t10.5\t20.5\t30.1\ta b\n2\t11.5\t21.5\t31.1\tc d\n", "NE", { delimiter: "\t" }],
  ] as [string, string, "NE" | "EN", Partial<Layout>][])("%s", (_, text, order, want) =>
    expect(guessLayout(utf8(text), order)).toMatchObject(want),
  );

  test("any bytes give a layout, and what is given stays", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        expect(guessLayout(bytes, "NE", { delimiter: ";", skipRows: 3 })).toMatchObject({
          delimiter: ";",
          skipRows: 3,
        });
      }),
      { numRuns: 300 },
    );
  });
});
