/** Clocks that go back within a delivery. */
import fc from "fast-check";
import { sentenceOf } from "../../src/finding";
import { runOf, stateOfText } from "../job";

const at = (minutes: number, day = "2031-04-17 ") =>
  `${day}${String(Math.floor(minutes / 60) % 24).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}:00`;
function backs(times: readonly string[]) {
  const text = times.map((time, k) => `${k + 1},${10 * k},0,5,SPOT,${time}`).join("\n"),
    state = stateOfText(text, {
      intakes: [
        {
          id: "day1",
          file: "day1.csv",
          layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description", "time"] },
        },
      ],
    });
  return runOf(state)
    .findings.filter((f) => f.kind === "clock-set-back")
    .map((f) => ({
      point: f.points[0],
      seconds: f.data.seconds,
      words: sentenceOf(f, { point: String, line: String }),
    }));
}

test("every row whose time lies more than a minute before the last one is told, by how much, and no other", () =>
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 300 }), { minLength: 1, maxLength: 12 }), (minutes) => {
      expect(backs(minutes.map((m) => at(m))).map((b) => [b.point, b.seconds])).toEqual(
        minutes.flatMap((m, k) => (k > 0 && minutes[k - 1]! - m > 1 ? [[k + 1, 60 * (minutes[k - 1]! - m)]] : [])),
      );
    }),
    { numRuns: 60 },
  ));

test("it is said in hours and minutes; midnight is none, nor a delivery of which some rows have no time", () => {
  expect(backs([at(300), at(175)]).map((b) => b.words)).toEqual([
    "day1.csv, row 2: the clock goes back by 2 hours 5 minutes at point 2. Lines go by time; where that is wrong " +
      "read the file again without its times, so that they go by rows.",
  ]);
  expect(backs([at(1438, ""), at(3, ""), at(1, "")]).map((b) => [b.point, b.seconds])).toEqual([[3, 120]]);
  expect(backs([at(1438), at(3)])).toHaveLength(1);
  expect(backs([at(300), at(100), ""])).toEqual([]);
  expect(backs(["", at(300), at(100)])).toEqual([]);
});
