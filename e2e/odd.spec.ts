/** Requests that no page of ours sends: each is answered by what it is, none is an error of the server. */
import { expect, test } from "./test";
import { intakeRequest } from "./helpers";

const TEXTS = [
  "",
  " ",
  "%",
  "%00",
  "%ff",
  "%E0%A4%A",
  "../..",
  "null",
  "x".repeat(5000),
  "水",
  "a%2Fb",
  "100%25",
  "\\",
  "'",
];
const VALUES: unknown[] = [
  null, true, 0, -1, 1e308, 2 ** 53, "", "x", "\u0000", "\ud800",
  [], [null], [[]], {}, { name: null }, [{}], [{ name: "a" }, { name: "a" }],
  { __proto__: null, constructor: 1 }, [1, 2, 3], "a".repeat(3000),
]; // prettier-ignore
const FIELDS = ["type", "field", "old", "new", "part", "name", "edits", "points", "changes", "at", "text"];
const CHANGES: Record<string, unknown>[] = [
  { type: "points", edits: [{ id: 1, field: "note", old: "", new: "a" }] },
  { type: "named", part: "sets", name: "a", old: null, new: { name: "a", rule: { codes: ["A"] } } },
  { type: "setting", field: "date", old: null, new: "2031-04-17" },
  { type: "several", text: "two", changes: [{ type: "setting", field: "client", old: null, new: "b" }] },
  { type: "add", points: { id: [1], number: ["9"], easting: [1], northing: [2], elevation: [3], description: [""] } },
];
const TEMPLATE_FIELDS = ["sets", "surfaces", "contours", "handover", "lines", "book", "tolerance",
  "drawing", "unit", "order", "crews", "checks", "system", "volumes"]; // prettier-ignore

test("two and a half thousand odd requests: no answer of 500, and the job is as it was", async ({ request }) => {
  const made = await request.post("/api/jobs", { data: { name: "Odd", unit: "m", order: "EN" } }),
    { id } = (await made.json()) as { id: number };
  expect(
    (await request.post(`/api/jobs/${id}/intakes`, intakeRequest("1,10,20,5,SPOT\n", { file: "a.csv" }))).ok(),
  ).toBe(true);
  const headers = { "x-author": "Petra", "content-type": "application/json" },
    wrong: string[] = [];
  let count = 0;
  const ask = async (method: string, path: string, data?: unknown, more: Record<string, string> = {}) => {
    count++;
    const body = typeof data === "string" || data === undefined ? data : JSON.stringify(data);
    const answer = await request.fetch(path, { method, data: body, headers: { ...headers, ...more }, maxRedirects: 0 });
    if (answer.status() >= 500)
      wrong.push(`${method} ${path.slice(0, 80)} ${body?.slice(0, 120) ?? ""}: ${answer.status()}`);
    return answer.status();
  };

  for (const change of CHANGES)
    for (const field of FIELDS)
      for (const value of VALUES) await ask("POST", `/api/jobs/${id}/changes`, { ...change, [field]: value });
  for (const field of TEMPLATE_FIELDS)
    for (const value of VALUES) {
      const name = `odd ${field}`;
      if (
        (await ask("POST", "/api/office/template", { name, body: { unit: "m", order: "EN", [field]: value } })) === 201
      )
        await ask("POST", "/api/jobs", { name: "From odd", template: name });
      await ask("DELETE", `/api/office/template?name=${encodeURIComponent(name)}`);
    }
  for (const value of VALUES) {
    for (const field of ["name", "unit", "order", "date", "book", "template", "like", "copy", "officeBook", "more"])
      await ask("POST", "/api/jobs", { name: "Odd again", [field]: value });
    for (const field of [
      "file",
      "format",
      "layout",
      "line",
      "unit",
      "encoding",
      "clash",
      "add",
      "clashes",
      "crew",
      "kind",
      "only",
    ]) {
      const head = JSON.stringify({ file: "b.csv", [field]: value });
      await ask("POST", `/api/jobs/${id}/intakes`, `${head}9,1,2,3,SPOT\n`, {
        "content-type": "application/octet-stream",
        "x-head": String(Buffer.byteLength(head)),
      });
      await ask("DELETE", `/api/jobs/${id}/intakes/b`);
    }
    for (const path of ["", "/ids", "/undo", "/redo", "/intakes/a", "/files?name=a.gtx"])
      for (const method of ["POST", "PUT", "PATCH"])
        if (!(method === "PATCH" && path === "")) await ask(method, `/api/jobs/${id}${path}`, value ?? "null");
    for (const kind of ["layout", "book", "template"]) {
      await ask("POST", `/api/office/${kind}`, { name: "odd", body: value });
      await ask("POST", `/api/office/${kind}`, value ?? "null");
    }
  }
  for (const text of TEXTS) {
    for (const path of ["", "/state", "/points", "/ledger", "/changes", "/recipe", "/stream"])
      await ask("GET", `/api/jobs/${encodeURIComponent(text)}${path}`);
    for (const asked of [
      "ledger?before=",
      "ledger?after=",
      "ledger?point=",
      "handover?file=",
      "withdrawn?number=",
      "files?name=",
      "changes?name=",
      "recipe?with=",
    ])
      await ask("GET", `/api/jobs/${id}/${asked}${text}`);
    await ask("GET", `/api/jobs/${id}/intakes/${text}`);
    await ask("DELETE", `/api/jobs/${id}/intakes/${text}`);
    await ask("GET", `/api/office/${text}`);
    await ask("POST", `/api/jobs/${id}/changes`, CHANGES[0], { "x-change": text.replace(/[^\x20-\x7e]/g, "") });
    await ask("GET", `/api/jobs/${id}/ledger`, undefined, { "x-author": text.replace(/[^\x20-\x7e]/g, "") });
  }
  expect(wrong).toEqual([]);
  expect(count).toBeGreaterThan(2500);
  expect((await request.get(`/api/jobs/${id}/state`)).ok()).toBe(true);
  expect((await request.get("/")).ok()).toBe(true);
});
