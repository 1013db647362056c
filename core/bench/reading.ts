/** Reading a delivered text, alone in the memory: each rival is given the same bytes and gives numbers as numbers. */
import Papa from "papaparse";
import { inferSchema, initParser } from "udsv";
import { readDelimited } from "../src/intake/delimited";
import { deliveredText, ground } from "./data";
import { least, tell } from "./measure";

export function benchReading(size: number, rounds: number): void {
  const bytes = new TextEncoder().encode(deliveredText(ground(size).table));
  const read = () =>
    readDelimited("bench", bytes, {
      delimiter: ",",
      columns: ["number", "northing", "easting", "elevation", "description"],
    });
  const decoded = () => new TextDecoder().decode(bytes);
  const header = () => [["a", "b", "c", "d", "e"]];
  const reading = least(
    [
      { name: "columns", run: read },
      { name: "with numbers", run: () => read().number.all() },
      {
        name: "udsv",
        run: () => {
          const text = decoded();
          return initParser(inferSchema(text, { header } as never)).typedArrs(text);
        },
      },
      { name: "papaparse", run: () => Papa.parse(decoded(), { dynamicTyping: true }) },
    ],
    rounds,
  );
  const columns = reading.get("columns")!;
  tell("text to typed columns", size, columns, "udsv", reading.get("udsv")!, "0.2 or less");
  tell("and point numbers as texts", size, reading.get("with numbers")!, "udsv", reading.get("udsv")!);
  tell("text to typed columns", size, columns, "papaparse", reading.get("papaparse")!);
  console.log(`${"".padEnd(34)} ${(bytes.length / columns / 1000).toFixed(0).padStart(9)} MB a second\n`);
}
