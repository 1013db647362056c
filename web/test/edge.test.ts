import { tolerancesIn } from "@bramble/core";
import { newJobSchema, readChange, readIntakeOptions } from "../server/edge";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { readBody, withBody } from "../server/body";
import { author, jobId, readJson, respond } from "../server/respond";

describe("changes at the edge", () => {
  const points = (edit: object) =>
    readChange({ type: "points", edits: [{ id: 1, field: "elevation", old: null, new: 5, ...edit }] });

  test.each([
    [{ new: 5.25 }],
    [{ new: null }],
    [{ field: "precision", new: 0 }],
    [{ field: "description", old: "", new: "TREE 4" }],
    [{ field: "surface", old: "auto", new: "out" }],
    [{ field: "deleted", old: false, new: true }],
    [{ field: "kind", old: "measured", new: "control" }],
  ])("%j is taken as it is", async (edit) => expect(await points(edit)).toMatchObject({ edits: [edit] }));

  test.each([
    [{ new: "5" }, "The elevation is a number"],
    [{ new: NaN }, "The elevation is a number"],
    [{ new: Infinity }, "The elevation is a number"],
    [{ field: "precision", new: -0.01 }, "The precision cannot be below 0"],
    [{ field: "northing", new: null }, "northing"],
    [{ field: "number", new: "" }, "A point needs a number"],
    [{ field: "description", new: "a\0b" }, "zero byte"],
    [{ field: "nothing" }, "field"],
    [{ id: 0 }, "id"],
    [{ id: 1.5 }, "id"],
    [{ extra: 1 }, "extra"],
    [{ field: "surface", new: "maybe" }, "new"],
    [{ field: "deleted", new: "yes" }, "true or false"],
  ])("%j is refused", async (edit, what) => expect(points(edit)).rejects.toThrow(new RegExp(what, "i")));

  test("named things go by the recipe's own schema, and keep their name", async () => {
    const named = (more: object) =>
      readChange({
        type: "named",
        part: "contours",
        name: "s",
        old: null,
        new: { surface: "s", interval: 1 },
        ...more,
      });
    expect(await named({})).toMatchObject({ part: "contours" });
    await expect(named({ new: { surface: "s", interval: 0 } })).rejects.toThrow("contours.interval: 0 must be > 0");
    await expect(named({ new: { surface: "t", interval: 1 } })).rejects.toThrow("The name within differs");
    await expect(named({ part: "points" })).rejects.toThrow("part");
    expect(await named({ new: null, old: { surface: "s", interval: 1 } })).toMatchObject({ new: null });
  });

  test("codes and lines by hand go by their schema; changes that belong together are each looked at", async () => {
    const code = (c: object) =>
      readChange({ type: "named", part: "codes", name: "POND", old: null, new: { code: "POND", ...c } });
    expect(await code({ kind: "area", labelAt: { place: "centre" } })).toMatchObject({ part: "codes" });
    await expect(code({ colour: "#ffffff" })).rejects.toThrow("Did you mean “color”?");
    await expect(code({ labelAt: { place: "above it" } })).rejects.toThrow("labelAt.place");
    const hand = {
      type: "named",
      part: "lines",
      name: "by hand 1",
      old: null,
      new: { name: "by hand 1", code: "WALL", points: ["day1.csv:1\t1", "*number:2"] },
    };
    const several = (changes: unknown[]) => readChange({ type: "several", text: "Both", changes });
    expect(
      await several([hand, { type: "points", edits: [{ id: 1, field: "cues", old: "", new: "" }] }]),
    ).toMatchObject({ type: "several" });
    await expect(several([hand, { ...hand, new: { name: "by hand 1", code: "WALL" } }])).rejects.toThrow("points");
    // Numbers are what a recipe says; here a point is known by its delivery and row.
    for (const points of ["1-3", ["1", "2"]])
      await expect(several([hand, { ...hand, new: { ...hand.new, points } }])).rejects.toThrow("points");
    await expect(several([])).rejects.toThrow("Nothing is changed");
    await expect(several([{ type: "intake" }])).rejects.toThrow("not known");
    await expect(several([{ type: "several", text: "in it", changes: [hand] }])).rejects.toThrow("hold no others");
  });

  test("a file that leaves has a name that stays where it is put, on any system", async () => {
    const file = (name: string) =>
      readChange({ type: "named", part: "handover", name, old: null, new: { file: name, format: "csv" } });
    expect(await file("plans/{job}.csv")).toMatchObject({ name: "plans/{job}.csv" });
    for (const name of ["../a.csv", "/a.csv", "con.csv", "C:a.csv"])
      await expect(file(name)).rejects.toThrow(`cannot be called “${name}”`);
    const title = (letters: number) =>
      readChange({
        type: "named",
        part: "handover",
        name: "a.pdf",
        old: null,
        new: { file: "a.pdf", format: "pdf", title: "x".repeat(letters) },
      });
    expect(await title(200)).toMatchObject({ name: "a.pdf" });
    await expect(title(201)).rejects.toThrow("title");
  });

  test("how the job is drawn is a setting with a schema of its own", async () => {
    const set = (value: unknown) => readChange({ type: "setting", field: "drawing", old: null, new: value });
    expect(
      await set({
        scale: 500,
        points: [{ set: "*", number: true }],
        hidden: { groups: ["Water"], kinds: ["line"] },
        order: ["Ground"],
      }),
    ).toMatchObject({ field: "drawing" });
    expect(await set(null)).toMatchObject({ new: null });
    await expect(set({ scale: 0 })).rejects.toThrow("scale");
    await expect(set({ hidden: { kinds: ["curve"] } })).rejects.toThrow("kinds");
  });

  test("settings: name, date, order, tolerance and book, each in its kind", async () => {
    const set = (field: string, value: unknown) => readChange({ type: "setting", field, old: null, new: value });
    expect(await set("name", "New name")).toMatchObject({ field: "name" });
    await expect(set("name", " ")).rejects.toThrow('name: " " is not a name of one line');
    await expect(set("name", null)).rejects.toThrow("A job cannot be without its name");
    await expect(set("order", "XY")).rejects.toThrow('"XY" is not one of "NE", "EN"');
    await expect(set("date", "yesterday")).rejects.toThrow("is not a day such as 2031-04-17");
    expect(await set("date", null)).toMatchObject({ new: null });
    await expect(set("tolerance", { ...tolerancesIn("m"), arc: -1 })).rejects.toThrow("tolerance.arc");
    await expect(set("book", { codes: [{ code: "A", colour: "#fff" }] })).rejects.toThrow("Did you mean “color”?");
    await expect(set("book", { codes: [{ code: "A" }, { code: "a" }] })).rejects.toThrow("there twice");
    await expect(readChange({ type: "intake" })).rejects.toThrow("not known");
    await expect(readChange({ type: "remove", points: {} })).rejects.toThrow("not known");
    const points = { id: [7], number: ["901"], easting: [1], northing: [2], elevation: [null], description: [""] };
    expect(await readChange({ type: "add", points })).toEqual({ type: "add", points });
    await expect(readChange({ type: "add", points: { ...points, easting: [1, 2] } })).rejects.toThrow(
      "a value in every column",
    );
    await expect(readChange({ type: "add", points: { ...points, easting: [Infinity] } })).rejects.toThrow(
      "The easting is a number",
    );
    await expect(readChange({ type: "add", points: { ...points, northing: [1e15] } })).rejects.toThrow(
      /The northing lies beyond ±1.000.000.000/,
    );
    for (const [field, far] of [
      ["easting", 1e10],
      ["elevation", -1e155],
      ["targetHeight", 2e9],
    ])
      await expect(readChange({ type: "points", edits: [{ id: 1, field, old: 1, new: far }] })).rejects.toThrow(
        "lies beyond",
      );
    const twice = { id: 1, field: "note", old: "", new: "a" };
    await expect(readChange({ type: "points", edits: [twice, twice] })).rejects.toThrow("once");
    await expect(readChange(null)).rejects.toThrow();
  });

  test("new jobs and intakes", async () => {
    const job = { name: "  Quarry ", unit: "m", order: "NE", book: "general" };
    expect((await newJobSchema.validate(job)).name).toBe("Quarry");
    await expect(newJobSchema.validate({ ...job, unit: "mile" })).rejects.toThrow("unit");
    await expect(newJobSchema.validate({ ...job, name: "" })).rejects.toThrow("A name is missing");
    await expect(newJobSchema.validate({ ...job, name: "a\nb" })).rejects.toThrow("control characters");
    expect(await readIntakeOptions({ file: "a.txt", clash: "add", add: 5 })).toMatchObject({ file: "a.txt" });
    await expect(readIntakeOptions({ file: "a/b.txt" })).rejects.toThrow("no folders");
    await expect(readIntakeOptions({ file: "a", id: "mine" })).rejects.toThrow("id");
    await expect(readIntakeOptions({ file: "a", unit: "mile" })).rejects.toThrow(
      'intake.unit: "mile" is not one of "m", "ft", "ftUS"',
    );
    await expect(readIntakeOptions({ file: "a", only: { inside: [[0, 0]] } })).rejects.toThrow("intake.only.inside");
    await expect(readIntakeOptions({ file: "a", clash: "merge" })).rejects.toThrow("clash");
    await expect(readIntakeOptions({ file: "a", layout: { columns: ["number", "up"] } })).rejects.toThrow(
      "layout.columns[1]",
    );
  });
});

describe("requests", () => {
  const request = (headers: Record<string, string>, body?: string) =>
    new Request("http://127.0.0.1:4310/api", {
      method: "POST",
      headers: { host: "127.0.0.1:4310", "content-type": "application/json", ...headers },
      body,
    });
  const answer = async (r: Request) => (await respond(r, async () => Response.json({ ok: true }))).json();

  test("only this machine, and only its own pages", async () => {
    expect(await answer(request({}))).toEqual({ ok: true });
    expect(await answer(request({ origin: "http://127.0.0.1:4310" }))).toEqual({ ok: true });
    expect((await answer(request({ host: "evil.example:4310" }))).message).toContain(
      "does not answer for “evil.example”",
    );
    expect((await answer(request({ origin: "http://evil.example" }))).message).toBe("Another site asked.");
    // Of another scheme it is another site, unless a proxy before this server says that it was asked so.
    for (const scheme of ["https", "ftp", "app"])
      expect((await answer(request({ origin: `${scheme}://127.0.0.1:4310` }))).message).toBe("Another site asked.");
    expect(await answer(request({ origin: "https://127.0.0.1:4310", "x-forwarded-proto": "https" }))).toEqual({
      ok: true,
    });
    expect(await answer(request({ host: "LOCALHOST:4310", origin: "http://localhost:4310" }))).toEqual({ ok: true });
    expect((await answer(request({ "sec-fetch-site": "cross-site" }))).message).toBe("Another site asked.");
    // What a form of any page can send.
    for (const type of ["text/plain", "multipart/form-data; boundary=x", "application/x-www-form-urlencoded"])
      expect((await answer(request({ "content-type": type }))).message).toContain("has the content type");
  });

  test("what goes wrong unexpectedly tells nothing of the inside", async () => {
    const log = jest.spyOn(console, "error").mockImplementation(() => undefined);
    const response = await respond(request({}), async () => {
      throw new Error("password=secret");
    });
    expect(response.status).toBe(500);
    expect(JSON.stringify(await response.json())).not.toContain("secret");
    log.mockRestore();
  });

  test("bodies have a limit, declared or not; JSON must be JSON", async () => {
    await expect(readBody(request({}, "x".repeat(200)), "a.txt", 100)).rejects.toMatchObject({
      code: "file-too-large",
    });
    expect((await readBody(request({}, "abc"), "a.txt", 100)).length).toBe(3);
    await expect(readJson(request({}, "{"))).rejects.toThrow("not JSON");
  });

  test("a body that comes too slowly is ended, and makes room for one that waits; no file of theirs stays", async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), "uploads-"));
    process.env.BRAMBLE_UPLOADS = folder;
    process.env.BRAMBLE_UPLOAD_SECONDS = "0.3";
    const never = () =>
      new Request("http://127.0.0.1:4310/api", {
        method: "POST",
        body: new ReadableStream({ start: (c) => c.enqueue(new Uint8Array(10)) }),
        duplex: "half",
      } as RequestInit);
    try {
      const slow = Array.from({ length: 6 }, () => withBody(never(), "slow.csv", 100, async () => "read"));
      const waits = withBody(request({}, "late"), "more.csv", 100, async (name) => fs.readFileSync(name, "utf8"));
      for (const upload of await Promise.allSettled(slow))
        expect(upload).toMatchObject({ status: "rejected", reason: { code: "upload-slow" } });
      expect(await waits).toBe("late");
      const kept = await withBody(request({}, "abc"), "a.txt", 100, async (name, size) => [
        fs.readFileSync(name, "utf8"),
        size,
        (fs.statSync(name).mode & 0o777).toString(8),
      ]);
      expect(kept).toEqual(["abc", 3, "600"]);
      expect(fs.readdirSync(folder)).toEqual([]);
    } finally {
      delete process.env.BRAMBLE_UPLOADS;
      delete process.env.BRAMBLE_UPLOAD_SECONDS;
      fs.rmSync(folder, { recursive: true });
    }
  });

  test("author and job from the request", () => {
    expect(author(request({ "x-author": encodeURIComponent("Zoë 水") }))).toBe("Zoë 水");
    expect(() => author(request({}))).toThrow("who is at the keyboard");
    expect(jobId({ id: "12" })).toBe(12);
    expect(() => jobId({ id: "1; DROP" })).toThrow("There is no job");
  });
});
