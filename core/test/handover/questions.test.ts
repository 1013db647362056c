/** What goes back to the crew: only what the field can settle, each with its positions, none that was accepted. */
import { questionsOf } from "../../src/job/told/questions";
import { writeFile } from "../../src/job/leave/handover";
import { crewReport } from "../../src/report/crew";
import type { TableBlock } from "../../src/report/model";
import { derive, type Row } from "../job";

const rows: Row[] = [
  ...Array.from({ length: 25 }, (_, k): Row => ({
    number: String(k + 1),
    e: 3000 + 10 * (k % 5),
    n: 7000 + 10 * Math.floor(k / 5),
    z: 100,
    code: "SPOT",
  })),
  { number: "31", e: 3005, n: 7005, z: 0, code: "SPOT" },
  { number: "32", e: 3015, n: 7005, z: 100, code: "TREE" },
  { number: "33", e: 3025, n: 7005, z: 100, code: "PYLON" },
  { number: "34", e: 3026, n: 7015, code: "PYLON" },
  // Taken as SPOT by its alias: the office knows what it is.
  { number: "35", e: 3035, n: 7005, z: 100, code: "SPT" },
];
const book = {
  codeBook: {
    codes: [
      { code: "SPOT", name: "Spot level" },
      { code: "TREE", name: "Tree", ground: false, attributes: [{ name: "spread", required: true }] },
    ],
    aliases: [{ from: "SPT", to: "SPOT" }],
  },
};

test("each open finding of the field is asked once, with what to do and all its positions", async () => {
  const { state, derived } = derive(rows, book),
    questions = questionsOf(state, derived);
  expect(questions.map((q) => q.mark)).toEqual(questions.map((_, k) => `Q${k + 1}`));
  const about = (part: string) => questions.find((q) => q.about.includes(part))!;
  expect(about("PYLON")).toMatchObject({
    task: "say what this is",
    numbers: ["33", "34"],
    at: [
      [3025, 7005, 100],
      [3026, 7015, NaN],
    ],
  });
  expect(about("spread")).toMatchObject({ task: "say the attribute", numbers: ["32"] });
  expect(about("elevation 0").task).toBe("measure the level again");
  expect(derived.findings.some((f) => f.kind === "code-by-alias")).toBe(true);
  expect(questions.some((q) => q.about.includes("SPT"))).toBe(false);

  const text = new TextDecoder().decode(
    (await writeFile({ file: "q.csv", format: "list", of: "questions", decimals: 1 }, state, derived)).bytes,
  );
  const mark = about("PYLON").mark;
  expect(text.split("\n")[0]).toBe("number,northing,easting,elevation,description");
  expect(text).toContain(`${mark}-1,7005.0,3025.0,100.0,say what this is: point 33\n`);
  expect(text).toContain(`${mark}-2,7015.0,3026.0,,say what this is: point 34\n`);

  const report = crewReport(state, derived, { author: "Ada", at: "today", of: "after entry 3" }),
    table = report.chapters[0]!.blocks[0] as TableBlock;
  expect(table.rows.map((r) => r[0])).toEqual(questions.map((q) => q.mark));
  expect(table.rows.find((r) => r[0] === mark)![3]).toBe("E 3025.000 N 7005.000; E 3026.000 N 7015.000");
  expect(report.facts).toContainEqual(["Made", "today by Ada"]);
});

test("what was accepted is not asked again; a job with nothing open says so", () => {
  const accepted = [{ kind: "unknown-code", points: "33-34", reason: "left as it is" }];
  const { state, derived } = derive(rows, { ...book, accepted } as never);
  expect(questionsOf(state, derived).some((q) => q.about.includes("PYLON"))).toBe(false);
  const plain = derive(rows.slice(0, 25), book),
    report = crewReport(plain.state, plain.derived, { author: "", at: "today", of: "" });
  expect(report.chapters[0]!.blocks).toEqual([{ kind: "text", text: expect.stringContaining("Nothing is open") }]);
});
