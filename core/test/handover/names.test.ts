/** Names of files that a job's name begins. */
import { plainName, staysInside } from "../../src/handover/names";

test.each([
  ["Gorsefold Quarry", "gorsefold-quarry"],
  ["Möwen & Söhne <b>Kai</b> ’26", "mowen-sohne-b-kai-b-26"],
  ["../../etc", "etc"],
  ["Карьер", "job"],
  ["x".repeat(200), "x".repeat(60)],
])("%s begins %s", (job, plain) => expect(plainName(job)).toBe(plain));

test.each([
  ["points.csv", true],
  ["plans/yard.dxf", true],
  ["console.csv", true],
  [".hidden", true],
  ["a..b.csv", true],
  ["conference/aux2.csv", true],
  ["", false],
  ["..", false],
  ["../a.csv", false],
  ["plans/../../a.csv", false],
  ["/etc/a.csv", false],
  ["plans//a.csv", false],
  ["C:a.csv", false],
  ["a\\b.csv", false],
  ["a\u0000.csv", false],
  ["con", false],
  ["NUL.csv", false],
  ["plans/Com1.dxf", false],
  ["aux/points.csv", false],
])("%j stays inside and can be written anywhere: %s", (name, is) => expect(staysInside(name)).toBe(is));
