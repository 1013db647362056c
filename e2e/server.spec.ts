/** What the server gives to programs: columns, files, recipe, ledger. */
import { expect, test, type APIRequestContext } from "./test";
import { spawnSync } from "node:child_process";
import fs from "node:fs";
import http from "node:http";
import os from "node:os";
import path from "node:path";
import { strToU8, unzipSync, zipSync } from "fflate";
import initSqlJs from "sql.js";
import { AUTHOR, change, intakeRequest, jobWith } from "./helpers";
import { decodeTable } from "../core/src/points/columns";

test("points leave in binary columns of the version they belong to", async ({ request }) => {
  const id = await jobWith(request, "1,10.5,20.25,5,TREE 4.5\n2,11,21,,SPOT; wet\n");
  const answer = await request.get(`/api/jobs/${id}/points`);
  expect(answer.headers()["x-version"]).toBe("1");
  const body = await answer.body();
  const t = decodeTable(body.buffer.slice(body.byteOffset, body.byteOffset + body.byteLength) as ArrayBuffer);
  expect(t.number).toEqual(["1", "2"]);
  expect([...t.e, ...t.n]).toEqual([10.5, 11, 20.25, 21]);
  expect(t.texts[t.description[1]!]).toBe("SPOT; wet");
});

test("handover files and the recipe are made from what is stored now", async ({ request }) => {
  const id = await jobWith(request, "1,0,0,5,SPOT\n2,10,0,5,SPOT\n3,10,10,6.0055,SPOT\n");
  const file = { file: "all.csv", format: "csv", columns: ["number", "elevation"], decimals: 3 };
  expect(
    (await change(request, id, { type: "named", part: "handover", name: "all.csv", old: null, new: file })).ok(),
  ).toBe(true);
  const get = async () => (await request.get(`/api/jobs/${id}/handover?file=all.csv`)).text();
  expect(await get()).toBe("number,elevation\n1,5.000\n2,5.000\n3,6.006\n");
  await change(request, id, { type: "points", edits: [{ id: 2, field: "elevation", old: 5, new: 7.5 }] });
  expect(await get()).toBe("number,elevation\n1,5.000\n2,7.500\n3,6.006\n");
  const recipe = await (await request.get(`/api/jobs/${id}/recipe`)).json();
  expect(recipe).toMatchObject({
    recipe: 1,
    name: "By program",
    edits: [{ points: "2", intake: "day1", set: { elevation: 7.5 } }],
    handover: [file],
  });
  expect((await request.get(`/api/jobs/${id}/handover?file=other.csv`)).status()).toBe(404);
  expect((await request.get(`/api/jobs/${id}/intakes/day1`)).headers()["content-disposition"]).toBe(
    'attachment; filename="day1.txt"',
  );
});

test("the recipe's package keeps names beyond ASCII for the system's own unzip and for Python's", async ({
  request,
}) => {
  const { id } = await (
    await request.post("/api/jobs", { data: { name: "Names", unit: "m", order: "EN", book: "general" } })
  ).json();
  const file = "Böschung ⌀ 水.csv";
  expect((await request.post(`/api/jobs/${id}/intakes`, intakeRequest("1,10,20,5,SPOT\n", { file }))).status()).toBe(
    201,
  );
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), "names-")),
    zip = path.join(folder, "recipe.zip");
  try {
    fs.writeFileSync(zip, await (await request.get(`/api/jobs/${id}/recipe?with=files`)).body());
    expect(spawnSync("unzip", ["-q", zip, "-d", path.join(folder, "out")], { encoding: "utf8" })).toMatchObject({
      status: 0,
      stderr: "",
    });
    expect(fs.readdirSync(path.join(folder, "out")).sort()).toEqual([file, "recipe.json"]);
    expect(fs.readFileSync(path.join(folder, "out", file), "utf8")).toBe("1,10,20,5,SPOT\n");
    const listed = spawnSync(
      "/usr/bin/python3",
      ["-X", "utf8", "-c", "import sys, zipfile; print('\\n'.join(zipfile.ZipFile(sys.argv[1]).namelist()))", zip],
      { encoding: "utf8" },
    ).stdout;
    expect(listed.trim().split("\n").sort()).toEqual([file, "recipe.json"]);
  } finally {
    fs.rmSync(folder, { recursive: true });
  }
});

test("a surface that cannot be made is said in the handover, and the rest goes on", async ({ request }) => {
  const id = await jobWith(request, "1,0,0,5,SPOT\n2,10,0,5,SPOT\n3,20,0,6,SPOT\n");
  for (const [part, name, body] of [
    ["surfaces", "flat", { name: "flat" }],
    ["contours", "flat", { surface: "flat", interval: 1 }],
    ["handover", "a.dxf", { file: "a.dxf", format: "dxf" }],
    ["handover", "p.csv", { file: "p.csv", format: "csv" }],
  ] as const) {
    await change(request, id, { type: "named", part, name, old: null, new: body });
  }
  const dxf = await request.get(`/api/jobs/${id}/handover?file=a.dxf`);
  expect(dxf.status()).toBe(400);
  expect((await dxf.json()).message).toBe(
    "All 3 points of surface “flat” lie on one line, so there is no triangle between them.",
  );
  expect((await request.get(`/api/jobs/${id}/handover?file=p.csv`)).ok()).toBe(true);
});

test("undo and redo by program; the ledger in pages", async ({ request }) => {
  const id = await jobWith(request, "1,0,0,5,SPOT\n");
  for (let k = 0; k < 3; k++)
    await change(request, id, { type: "points", edits: [{ id: 1, field: "elevation", old: 5 + k, new: 6 + k }] });
  const undone = await (await request.post(`/api/jobs/${id}/undo`, { headers: AUTHOR, data: {} })).json();
  expect(undone).toMatchObject({
    kind: "undo",
    author: "Petra",
    text: "Elevation of 1 point changed: taken back",
    change: { edits: [{ old: 8, new: 7 }] },
  });
  expect(
    (await (await request.post(`/api/jobs/${id}/redo`, { headers: AUTHOR, data: {} })).json()).change.edits[0].new,
  ).toBe(8);
  const page = await (await request.get(`/api/jobs/${id}/ledger?before=4`)).json();
  expect(page.map((l: { seq: number }) => l.seq)).toEqual([3, 2, 1]);
  expect((await request.post(`/api/jobs/${id}/undo`, { data: {} })).status()).toBe(400);
});

test("hostile files are refused in a sentence, nothing of them is stored, and the server lives on", async ({
  request,
}) => {
  const { id } = await (
    await request.post("/api/jobs", { data: { name: "Hostile", unit: "m", order: "EN", book: "general" } })
  ).json();
  const send = async (content: string | Buffer, file: string) => {
    const answer = await request.post(`/api/jobs/${id}/intakes`, intakeRequest(content, { file }));
    return { status: answer.status(), message: (await answer.json()).message as string };
  };
  expect(
    await send(
      '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aa"><!ENTITY b "&a;&a;">]><LandXML>&b;</LandXML>',
      "bomb.xml",
    ),
  ).toMatchObject({ status: 400, message: expect.stringContaining("document type") });
  expect(await send(`<LandXML>${"<a>".repeat(50_000)}`, "deep.xml")).toMatchObject({
    status: 400,
    message: expect.stringContaining("nested more than 100 deep"),
  });
  expect(await send(`1,2,3,"${"x".repeat(3_000_000)}`, "long.csv")).toMatchObject({
    status: 400,
    message: expect.stringContaining("longer than a megabyte"),
  });
  expect(await send(Buffer.from([49, 44, 0, 50]), "zero.csv")).toMatchObject({
    status: 400,
    message: expect.stringContaining("is not text"),
  });
  expect(await send(Buffer.from("SQLite format 3\0broken"), "broken.gpkg")).toMatchObject({
    status: 400,
    message: expect.stringContaining("SQLite database"),
  });
  expect(await send(Buffer.from("PK\x03\x04broken"), "broken.xlsx")).toMatchObject({
    status: 400,
    message: expect.stringContaining("archive"),
  });
  expect(
    await send(`{"type":"Point","coordinates":${"[".repeat(300_000)}${"]".repeat(300_000)}}`, "deep.json"),
  ).toMatchObject({ status: 400, message: expect.stringContaining("nested more than 200 deep") });
  const rule = '{"all":['.repeat(300_000) + "]}".repeat(300_000);
  const deep = await request.post(`/api/jobs/${id}/changes`, {
    data: `{"type":"named","part":"sets","name":"a","old":null,"new":{"name":"a","rule":${rule}}}`,
    headers: { ...AUTHOR, "content-type": "application/json" },
  });
  expect([deep.status(), (await deep.json()).message]).toEqual([
    400,
    expect.stringContaining("nested more than 200 deep"),
  ]);
  expect(await send("1,2,3", "..\\up.csv")).toMatchObject({
    status: 400,
    message: expect.stringContaining("no folders"),
  });
  const job = await (await request.get(`/api/jobs/${id}`)).json();
  expect([job.intakes, job.ledger]).toEqual([[], []]);
  expect((await send("1,10,20,5,SPOT\n", "good.csv")).status).toBe(201);
  // A polyline without its end is read as far as it goes; positions beyond reach are refused rows.
  const pairs = "0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n8\nA\n70\n8\n0\nVERTEX\n10\n1\n20\n2\n0\nVERTEX\n10\n3\n20\n4";
  expect((await send(`${pairs}\n0\nPOINT\n10\n5\n20\n6\n30\n7`, "endless.dxf")).status).toBe(201);
  expect((await send("1,1e15,2,3,SPOT\n2,7000,3000,9,SPOT\n", "far.csv")).status).toBe(201);
  expect((await request.get("/api/jobs")).ok()).toBe(true);
});

test("containers that hold more than they say, or compute what they hold, end in a sentence or are read without", async ({
  request,
}) => {
  const { id } = await (await request.post("/api/jobs", { data: { name: "Containers", order: "EN" } })).json();
  const send = async (content: Buffer, file: string) => {
    const answer = await request.post(`/api/jobs/${id}/intakes`, intakeRequest(content, { file }));
    return [answer.status(), ((await answer.json()) as { message?: string }).message ?? ""] as const;
  };
  const workbook = (rows: string) => {
    const sheet =
      `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">` +
      `<sheetData>${rows}</sheetData></worksheet>`;
    return Buffer.from(
      zipSync({ "xl/workbook.xml": strToU8("<workbook/>"), "xl/worksheets/sheet1.xml": strToU8(sheet) }),
    );
  };
  for (const place of ["ZZZZZZZ999999999", "XFD1048576"])
    expect(await send(workbook(`<row r="1"><c r="${place}"><v>1</v></c></row>`), "far.xlsx")).toEqual([
      400,
      expect.stringContaining("cannot be opened as a spreadsheet"),
    ]);
  const lying = workbook(`<row r="1">${"<c/>".repeat(50_000)}</row>`);
  lying.writeUInt32LE(100, lying.indexOf("xl/worksheets", lying.lastIndexOf("PK\x01\x02")) - 22);
  expect(await send(lying, "lying.xlsx")).toEqual([400, expect.stringContaining("larger than it says")]);

  const SQL = await initSqlJs(),
    db = new SQL.Database();
  db.run("CREATE TABLE t (number TEXT, easting REAL, northing REAL, much AS (hex(zeroblob(400000000))))");
  db.run("INSERT INTO t (number, easting, northing) VALUES ('1', 10, 20)");
  db.run("CREATE VIEW v AS WITH RECURSIVE n(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x AS number FROM n");
  expect((await send(Buffer.from(db.export()), "computes.sqlite"))[0]).toBe(201);
  db.close();
  const { definition, intakes } = await (await request.get(`/api/jobs/${id}`)).json();
  expect([definition.name, intakes.map((k: { points: number }) => k.points)]).toEqual(["Containers", [1]]);
});

test("odd requests are answered by a sentence, and are no error of the server", async ({ request }) => {
  const id = await jobWith(request, "1,10,20,5,SPOT\n"),
    note = { type: "points", edits: [{ id: 1, field: "note", old: "", new: "a" }] };
  const said = async (path: string, init: Parameters<APIRequestContext["fetch"]>[1]) => {
    const answer = await request.fetch(path, init);
    return [answer.status(), ((await answer.json()) as { message: string }).message] as const;
  };
  const post = (data: unknown, headers: Record<string, string> = AUTHOR) =>
    said(`/api/jobs/${id}/changes`, {
      method: "POST",
      data: JSON.stringify(data),
      headers: { ...headers, "content-type": "application/json" },
    });
  expect(await post(note, { ...AUTHOR, origin: "null" })).toEqual([400, "Another site asked."]);
  expect(await post(note, { "x-author": "%" })).toEqual([400, expect.stringContaining("not encoded")]);
  expect(await post(note, { "x-author": "%00" })).toEqual([400, "A text cannot hold a zero byte."]);
  for (const far of ["2147483648", "99999999999", "9007199254740993"])
    expect((await said(`/api/jobs/${far}`, {}))[0]).toBe(404);
  const named = (text: string) => ({ type: "setting", field: "name", old: "By program", new: text });
  expect(await post(named("a\0b"))).toEqual([400, "A text cannot hold a zero byte."]);
  expect(await post(named("a\ud800b"))).toEqual([400, expect.stringContaining("half of a pair")]);
  expect(await post({ ...note, "\udc00": 1 })).toEqual([400, expect.stringContaining("half of a pair")]);
  expect((await post(named("a \u{1F33F} b")))[0]).toBe(200);
  // A method that asks for what was sent to be sent back is none of ours.
  for (const path of [`/api/jobs/${id}`, `/jobs/${id}`, "/"]) {
    const { host, port } = new URL(process.env.BASE_URL!),
      status = await new Promise<number | undefined>((resolve, reject) =>
        http
          .request({ host: "127.0.0.1", port, path, method: "TRACE", headers: { host } }, (r) =>
            resolve(r.resume().statusCode),
          )
          .on("error", reject)
          .end(),
      );
    expect([400, 405]).toContain(status);
  }
  // A name with a percent sign, and one that looks encoded, is the name that it is.
  for (const file of ["100%.csv", "a%20b.csv"]) {
    const key = file.replace(".csv", ""),
      answer = await request.post(`/api/jobs/${id}/intakes`, intakeRequest(`${key},1,2,3,SPOT\n`, { file })),
      { info } = (await answer.json()) as { info: { id: string } },
      path = `/api/jobs/${id}/intakes/${encodeURIComponent(info.id)}`;
    expect([answer.status(), await (await request.get(path)).text()]).toEqual([201, `${key},1,2,3,SPOT\n`]);
    expect((await request.delete(path, { headers: AUTHOR })).status()).toBe(200);
  }
});

test("the demo job, raw observations and all, runs headless to the same points", async ({ request }) => {
  const jobs = (await (await request.get("/api/jobs")).json()) as { id: number; name: string; points: number }[];
  const { id, points } = jobs.find((j) => j.name === "Gorsefold Quarry")!;
  const zip = unzipSync(await (await request.get(`/api/jobs/${id}/recipe?with=files`)).body());
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), "recipe-"));
  try {
    for (const [name, bytes] of Object.entries(zip)) fs.writeFileSync(path.join(folder, name), bytes);
    const ran = spawnSync("./bramble", ["run", path.join(folder, "recipe.json"), "--out", path.join(folder, "out")], {
      encoding: "utf8",
    });
    expect(ran).toMatchObject({ status: 0, stderr: "" });
    const summary = JSON.parse(fs.readFileSync(path.join(folder, "out/summary.json"), "utf8"));
    expect(summary.points.count).toBe(points);
    expect(summary.intakes.map((k: { setups: number }) => k.setups)).toEqual([2, 0, 0]);
    const body = await (await request.get(`/api/jobs/${id}/points`)).body();
    const t = decodeTable(body.buffer.slice(body.byteOffset, body.byteOffset + body.byteLength) as ArrayBuffer);
    expect(summary.points.extent.maxE).toBeCloseTo(Math.max(...t.e.filter((_, i) => !t.deleted[i])), 9);
  } finally {
    fs.rmSync(folder, { recursive: true });
  }
});

test("a request sent again by its name is done once; one whose answer was lost is looked up", async ({ request }) => {
  const id = await jobWith(request, "1,10,20,5,SPOT\n2,30,40,6,SPOT\n");
  const named = (name: string) => ({ ...AUTHOR, "x-change": name });
  const twice = async (ask: () => Promise<{ json(): Promise<unknown>; status(): number }>) => {
    const [first, second] = [await ask(), await ask()];
    expect(first.status()).toBeLessThan(300);
    expect(await second.json()).toMatchObject((await first.json()) as Record<string, unknown>);
  };
  const seqs = async () =>
    ((await (await request.get(`/api/jobs/${id}/ledger`)).json()) as { seq: number }[]).map((e) => e.seq);
  const sent = intakeRequest("3,1,2,3,SPOT\n", { file: "day2.txt" });
  await twice(() =>
    request.post(`/api/jobs/${id}/intakes`, { ...sent, headers: { ...sent.headers, ...named("delivery-1") } }),
  );
  const edit = { type: "points", edits: [{ id: 1, field: "elevation", old: 5, new: 7 }] };
  await twice(() => request.post(`/api/jobs/${id}/changes`, { data: edit, headers: named("change-01") }));
  await twice(() => request.post(`/api/jobs/${id}/undo`, { data: {}, headers: named("undo-0001") }));
  await twice(() => request.post(`/api/jobs/${id}/redo`, { data: {}, headers: named("redo-0001") }));
  await twice(() => request.delete(`/api/jobs/${id}/intakes/day2`, { headers: named("withdraw-1") }));
  const back = { data: { action: "restore" }, headers: named("restore-1") };
  await twice(() => request.post(`/api/jobs/${id}/intakes/day2`, back));
  const again = { data: { file: "day2.txt", kind: "design" }, headers: named("again-001") };
  await twice(() => request.put(`/api/jobs/${id}/intakes/day2`, again));
  expect(await seqs()).toEqual([8, 7, 6, 5, 4, 3, 2, 1]);
  for (const data of [{ name: "Twice" }, { name: "Twice, copied", copy: id }])
    await twice(() => request.post("/api/jobs", { data, headers: named(`job-${data.name.length}-name`) }));
  const lookUp = (name: string) => request.get(`/api/jobs/${id}/changes?name=${name}`);
  expect(await (await lookUp("undo-0001")).json()).toMatchObject({ seq: 4, kind: "undo", client: "undo-0001" });
  expect([(await lookUp("never-sent")).status(), await (await lookUp("never-sent")).json()]).toMatchObject([
    404,
    { code: "change-unstored" },
  ]);
});

test("a change too large to be looked through beside others is stored as any other", async ({ request }) => {
  const count = 6000,
    id = await jobWith(request, Array.from({ length: count }, (_, i) => `${i + 1},${i},${i % 60},5,SPOT\n`).join(""));
  const edits = (old: number, now: number) =>
    Array.from({ length: count }, (_, i) => ({ id: i + 1, field: "elevation", old, new: now }));
  expect(JSON.stringify(edits(5, 6.5)).length).toBeGreaterThan(256_000);
  const stored = await change(request, id, { type: "points", edits: edits(5, 6.5), padding: undefined });
  expect(stored.status()).toBe(200);
  const t = decodeTable(new Uint8Array(await (await request.get(`/api/jobs/${id}/points`)).body()).buffer);
  expect(t.z.every((z) => z === 6.5)).toBe(true);
  expect((await change(request, id, { type: "points", edits: edits(5, 8) })).status()).toBe(409);
});

test("aliases of many wildcards and lists of many ranges hold nobody: the job is opened and handed over", async ({
  request,
}) => {
  const text = Array.from({ length: 300 }, (_, i) => `${i + 1},${i},${i % 7},5,${"A".repeat(60)}${i}\n`).join(""),
    id = await jobWith(request, text);
  const stored = async (data: object) => expect((await change(request, id, data)).status()).toBe(200);
  const { definition } = await (await request.get(`/api/jobs/${id}`)).json();
  const aliases = Array.from({ length: 50 }, (_, k) => ({ from: `${"*A".repeat(40)}*B${k}`, to: "SPOT" }));
  await stored({ type: "setting", field: "book", old: definition.book, new: { ...definition.book, aliases } });
  const ranges = Array.from({ length: 20_000 }, (_, k) => `${3 * k}-${3 * k + 1}`).join(","),
    set = { name: "many", rule: { numbers: ranges } },
    file = { file: "p.csv", format: "csv", columns: ["number"], points: "many", header: false };
  await stored({ type: "named", part: "sets", name: "many", old: null, new: set });
  await stored({ type: "named", part: "handover", name: "p.csv", old: null, new: file });
  expect((await request.get(`/api/jobs/${id}/state`)).ok()).toBe(true);
  const written = await (await request.get(`/api/jobs/${id}/handover?file=p.csv`)).text();
  expect(written.trimEnd().split("\n")).toEqual(
    Array.from({ length: 300 }, (_, i) => String(i + 1)).filter((n) => Number(n) % 3 < 2),
  );
});

test("a package comes in as a job over the network, and goes out as it came", async ({ request }) => {
  const id = await jobWith(request, "1,10,20,5,SPOT\n2,30,40,6,SPOT\n");
  await change(request, id, { type: "points", edits: [{ id: 1, field: "elevation", old: 5, new: 7 }] });
  const zip = await (await request.get(`/api/jobs/${id}/recipe?with=files`)).body();
  const take = (data: Buffer) =>
    request.post("/api/jobs", { data, headers: { ...AUTHOR, "content-type": "application/octet-stream" } });
  const made = await take(zip);
  expect(made.status()).toBe(201);
  const other = ((await made.json()) as { id: number }).id;
  expect((await (await request.get(`/api/jobs/${other}/recipe?with=files`)).body()).equals(zip)).toBe(true);
  const broken = await take(zip.subarray(0, zip.length / 2));
  expect([broken.status(), (await broken.json()).message]).toEqual([400, expect.stringContaining("archive")]);
});

test("pages and data answer known hosts alone, run scripts of ours alone, and are kept by nobody", async ({
  request,
  page,
}) => {
  for (const path of ["/", "/jobs/1/points", "/api/jobs", "/api/jobs/1/state"]) {
    const strange = await request.get(path, { headers: { host: "survey.example" } });
    expect([path, strange.status()]).toEqual([path, 400]);
    const known = (await request.get(path)).headers();
    expect(known).toMatchObject({
      "cache-control": "no-store",
      "x-content-type-options": "nosniff",
      "referrer-policy": "no-referrer",
      "x-frame-options": "DENY",
    });
  }
  const policies = await Promise.all(
    [1, 2].map(async () => (await request.get("/")).headers()["content-security-policy"]!),
  );
  expect(policies[0]).toContain("frame-ancestors 'none'");
  expect(policies[0]).not.toContain("'unsafe-eval'");
  const nonces = policies.map((p) => /'nonce-([^']+)'/.exec(p)![1]);
  expect(nonces[0]).not.toBe(nonces[1]);
  // A script without the nonce, and a text run as a program, do nothing.
  await page.goto("/");
  const ran = await page.evaluate(() => {
    const script = document.createElement("script");
    script.textContent = "window.ran = true";
    document.body.append(script);
    // A text that is to be run later is run by the page, not by this test.
    setTimeout("window.evaluated = true");
    return new Promise((told) =>
      setTimeout(() => {
        const { ran = false, evaluated = false } = window as { ran?: boolean; evaluated?: boolean };
        told([ran, evaluated]);
      }, 1),
    );
  });
  expect(ran).toEqual([false, false]);
});
