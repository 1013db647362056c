/** While a file of a million rows is read, everybody else goes on. */
import path from "node:path";
import { Application } from "../lib/application";

const app = new Application(path.join(__dirname, "../.."), 47_320);

jest.setTimeout(400_000);
afterAll(() => app.remove());

/** As the issue has it: milliseconds, at the median. */
const ANSWERED_WITHIN = 200;
const ROWS = 1_000_000;

test("another job's pages answer, and are written to, at once", async () => {
  const { url } = await app.begin(),
    headers = { "x-author": "Ada", "content-type": "application/json" };
  const listed = (await (await fetch(`${url}/api/jobs`)).json()) as { id: number; name: string }[],
    other = listed.find((j) => j.name === "Gorsefold Quarry")!.id;
  const { id } = (await (
    await fetch(`${url}/api/jobs`, { method: "POST", headers, body: JSON.stringify({ name: "Large", order: "EN" }) })
  ).json()) as { id: number };
  const rows = Array.from({ length: ROWS }, (_, i) => `${i + 1},${i % 1000},${Math.floor(i / 1000)},5,SPOT`),
    layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
    head = JSON.stringify({ file: "large.csv", layout });
  const large = { ...headers, "content-type": "application/octet-stream", "x-head": String(head.length) };
  let reading = true;
  const taking = fetch(`${url}/api/jobs/${id}/intakes`, {
    method: "POST",
    headers: large,
    body: `${head}${rows.join("\n")}\n`,
  }).finally(() => (reading = false));

  const took: number[] = [],
    asked = [`/jobs/${other}/points`, "/", `/api/jobs/${other}`, `/api/jobs/${other}/state`];
  for (let k = 0; reading; k++) {
    const begun = performance.now(),
      answer = await fetch(url + asked[k % asked.length]!);
    await answer.arrayBuffer();
    took.push(performance.now() - begun);
    expect(answer.status).toBe(200);
    const note = { type: "setting", field: "client", old: k === 0 ? null : `at ${k - 1}`, new: `at ${k}` };
    const stored = await fetch(`${url}/api/jobs/${other}/changes`, {
      method: "POST",
      headers,
      body: JSON.stringify(note),
    });
    expect(stored.status).toBe(200);
  }
  const { info } = (await (await taking).json()) as { info: { points: number } };
  expect(info.points).toBe(ROWS);
  expect(took.length).toBeGreaterThan(20);
  expect(took.toSorted((a, b) => a - b)[took.length >> 1]).toBeLessThan(ANSWERED_WITHIN);
});
