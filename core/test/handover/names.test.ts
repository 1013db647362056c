/** Names of files that a job's name begins. */
import { plainName } from "../../src/handover/names";

test.each([
  ["Gorsefold Quarry", "gorsefold-quarry"],
  ["Möwen & Söhne <b>Kai</b> ’26", "mowen-sohne-b-kai-b-26"],
  ["../../etc", "etc"],
  ["Карьер", "job"],
  ["x".repeat(200), "x".repeat(60)],
])("%s begins %s", (job, plain) => expect(plainName(job)).toBe(plain));
