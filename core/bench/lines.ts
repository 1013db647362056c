/** Codes read and lines made of them, all and again after one shot moved. */
import { DEFAULT_TOLERANCES } from "../src/math/tolerances";
import { compileBook } from "../src/codes/book";
import { readCodes } from "../src/codes/read";
import { assembleLines, type KeptLines } from "../src/lines/assemble";
import { flattenLines } from "../src/lines/flatten";
import type { PointTable } from "../src/points/table";
import { coded } from "./data";
import { least, roundsOf, tell } from "./measure";

export function benchLines(size: number): void {
  const rounds = roundsOf(size);
  const drawn = coded(size),
    book = compileBook({ codes: [{ code: "WALL", kind: "line" }] });
  const words = readCodes(drawn, book),
    kept: KeptLines = new Map();
  const build = (t: PointTable, from?: KeptLines) =>
    assembleLines(t, words, DEFAULT_TOLERANCES, "m", book, [], undefined, from);
  build(drawn, kept);
  const e = drawn.e.slice();
  let moved = 0;
  const lines = least(
    [
      { name: "codes", run: () => readCodes(drawn, compileBook({ codes: [{ code: "WALL", kind: "line" }] })) },
      { name: "lines", run: () => flattenLines(build(drawn).lines, DEFAULT_TOLERANCES.chord) },
      {
        name: "again",
        run: () => {
          e[5]! += 0.01 * (++moved % 2 ? 1 : -1);
          flattenLines(build({ ...drawn, e }, kept).lines, DEFAULT_TOLERANCES.chord);
        },
      },
    ],
    rounds,
  );
  tell(
    `${size / 10} lines with arcs and curves`,
    size,
    lines.get("lines")!,
    "reading their codes",
    lines.get("codes")!,
  );
  tell("the same after one shot moved", size, lines.get("again")!, "all lines", lines.get("lines")!, "less than 0.5");
}
