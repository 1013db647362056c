/** The number that a new point is offered: on from the office's own, never a gap amid the field's. */
import { gapsOfNumbers, nextFreeNumber } from "../../src/job/change/next-number";
import type { JobState } from "../../src/job/model/model";
import { tableOf } from "../../src/points/table";

const job = (field: string[], office: string[] = [], more: Partial<JobState> = {}) => {
  const t = tableOf(field.length + office.length);
  t.number = [...field, ...office];
  for (let i = 0; i < field.length; i++) t.intake[i] = 0;
  return { points: t, ...more };
};

test("where nothing is said it is behind the highest, and no gap", () => {
  expect(nextFreeNumber(job(["1", "2", "5", "900", "A7", "K1200"]))).toBe("901");
  expect(nextFreeNumber(job([]))).toBe("1");
  expect(nextFreeNumber(job(["A", "B2"]))).toBe("1");
});

test("from a number on: a series goes on behind the office's own; where that is taken, behind the highest", () => {
  const field = ["1", "2", "500", "503", "700"];
  expect(nextFreeNumber(job(field, [], { nextNumber: "600" }))).toBe("600");
  expect(nextFreeNumber(job(field, ["600", "601"], { nextNumber: "600" }))).toBe("602");
  // 501 and 502 are gaps amid the field's numbers.
  expect(nextFreeNumber(job(field, [], { nextNumber: "500" }))).toBe("701");
  expect(nextFreeNumber(job(field, ["502"], { nextNumber: "501" }))).toBe("701");
  expect(nextFreeNumber(job(["5"], [], { nextNumber: "0" }))).toBe("0");
  expect(nextFreeNumber(job(["P007"], ["P010"], { nextNumber: "P001" }))).toBe("P011");
  expect(nextFreeNumber(job(["9"], [], { nextNumber: "1A" }))).toBe("1A");
  // Of very many digits each is counted on until one is free.
  expect(nextFreeNumber(job(["9007199254740993"], [], { nextNumber: "9007199254740993" }))).toBe("9007199254740994");
  expect(nextFreeNumber(job(["PEG"], [], { nextNumber: "PEG" }))).toBe("PEG1");
});

test("each kind from its own number; a preset's goes before both", () => {
  const j = job(["1"], ["D3"], { nextNumber: "900", nextNumbers: [{ kind: "design", next: "D1" }] });
  expect(nextFreeNumber(j)).toBe("900");
  expect(nextFreeNumber(j, "D1")).toBe("D4");
  expect(nextFreeNumber(j, "T01")).toBe("T01");
});

test("gaps are told by their ends, the first of many", () => {
  expect(gapsOfNumbers({ number: ["9", "1", "2", "12", "x", "007"] })).toEqual({
    gaps: [
      [3, 8],
      [10, 11],
    ],
    more: 0,
  });
  expect(gapsOfNumbers({ number: ["1", "3", "5", "7"] }, 2)).toEqual({ gaps: [[2, 2], [4, 4]], more: 1 }); // prettier-ignore
});
