/**
 * Readings of deliveries on a real PostgreSQL: another layout, withdrawn, restored, raw observations, a connection lost
 * on the way.
 */
import path from "node:path";
import fc from "fast-check";
import { GENERAL_BOOK, runChain, type EditableChange, type Layout } from "@bramble/core";
import { refsOfNumbers } from "@bramble/core/points/refs";
import { surveyXml } from "../../core/test/survey";
import {
  closePool,
  createJob,
  forgetInOffice,
  getPool,
  keepInOffice,
  keepJobFile,
  listOffice,
  loadJob,
  loadJobState,
  loadPoints,
  migrate,
  readIntakeAgain,
  redoLast,
  storeChange,
  takeIntake,
  turnOneIntake,
  undoLast,
  withdrawIntake,
} from "../src/index";

const bytes = (text: string) => new TextEncoder().encode(text);
const columns = (...c: string[]): Layout => ({ delimiter: ",", columns: c as never });
const EN = columns("number", "easting", "northing", "elevation", "description"),
  NE = columns("number", "northing", "easting", "elevation", "description");
const TEXT = "1,10,20,5,SPOT\n2,30,40,6,TREE\nx,50,y,7,SPOT\n3,50,60,7,SPOT\n";
let job: number;

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Test plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});
const table = () => loadPoints(getPool(), job);
const places = async () => {
  const t = await table();
  return t.number.flatMap((n, i) => (t.deleted[i] ? [] : [[n, t.e[i], t.n[i], t.z[i]]]));
};
const edit = async (number: string, field: string, value: unknown): Promise<EditableChange> => {
  const state = await loadJobState(getPool(), await loadJob(getPool(), job)),
    t = state.points,
    i = t.number.findIndex((n, k) => n === number && t.deleted[k] === 0);
  const { fieldValue } = await import("@bramble/core/points/edits");
  return {
    type: "points",
    edits: [{ id: t.id[i]!, field: field as never, old: fieldValue(t, i, field as never), new: value as never }],
  };
};

test("read again with another layout: places change, edits and the name stay; undo brings the first back", async () => {
  await takeIntake(job, "Ada", { file: "day1.csv", layout: EN }, bytes(TEXT));
  await takeIntake(job, "Ada", { file: "day2.csv", layout: EN }, bytes("9,1,2,3,SPOT\n"));
  await storeChange(job, "Ada", await edit("2", "elevation", 66));
  await storeChange(job, "Ada", await edit("3", "number", "33"));
  const { lost, info } = await readIntakeAgain(job, "Ben", "day1", { layout: NE });
  expect(lost).toEqual([]);
  expect(info).toMatchObject({ id: "day1", points: 3 });
  expect(await places()).toEqual(
    expect.arrayContaining([
      ["1", 20, 10, 5],
      ["2", 40, 30, 66],
      ["33", 60, 50, 7],
      ["9", 1, 2, 3],
    ]),
  );
  expect((await loadJob(getPool(), job)).intakes.map((k) => k.id)).toEqual(["day1", "day2"]);
  expect((await loadJob(getPool(), job)).withdrawn).toEqual([]);
  expect((await undoLast(job, "Ben", true)).text).toBe("“day1.csv” read again: taken back");
  expect(await places()).toEqual(
    expect.arrayContaining([
      ["1", 10, 20, 5],
      ["2", 30, 40, 66],
      ["33", 50, 60, 7],
    ]),
  );
  await redoLast(job, "Ben", true);
  expect(await places()).toEqual(expect.arrayContaining([["1", 20, 10, 5]]));
  expect(await places()).toHaveLength(4);
});

test("a line by hand keeps its points through other numbers, readings, deliveries that replace and one that is corrected", async () => {
  await takeIntake(job, "Ada", { file: "day0.csv", layout: EN }, bytes("3,0,0,5,SPOT\n"));
  await takeIntake(job, "Ada", { file: "day1.csv", layout: EN, clash: "add", add: 100 }, bytes(TEXT));
  const state = async () => loadJobState(getPool(), await loadJob(getPool(), job)),
    { points, intakes } = await state(),
    line = { name: "by hand 1", code: "WALL", points: ["1", "2", "103"].map(refsOfNumbers(points, intakes)) };
  await storeChange(job, "Ada", { type: "named", part: "lines", name: line.name, old: null, new: line });
  const way = async () => {
    const s = await state();
    return runChain(s)
      .lines.filter((l) => l.hand)
      .flatMap((l) => l.shots.map((i) => `${s.points.number[i]} ${s.points.e[i]},${s.points.n[i]}`));
  };
  expect(await way()).toEqual(["1 10,20", "2 30,40", "103 50,60"]);
  await storeChange(job, "Ada", await edit("2", "number", "K2"));
  // Read again: numbers that were there are others now, and ids are new.
  await readIntakeAgain(job, "Ben", "day1", { layout: EN, clash: "add", add: 200 });
  expect(await way()).toEqual(["1 10,20", "K2 30,40", "203 50,60"]);
  // Measured again, the later position counts, until it leaves.
  await takeIntake(job, "Ben", { file: "day2.csv", layout: EN, clash: "replace" }, bytes("1,11,21,7,SPOT\n"));
  expect(await way()).toEqual(["1 11,21", "K2 30,40", "203 50,60"]);
  await withdrawIntake(job, "Ben", "day2");
  expect(await way()).toEqual(["1 10,20", "K2 30,40", "203 50,60"]);
  // Its delivery goes, and comes corrected under another name, in another order.
  await withdrawIntake(job, "Ben", "day1");
  expect(await way()).toEqual([]);
  const corrected = bytes("2,30,41,6,TREE\n1,10,21,5,SPOT\n");
  await takeIntake(job, "Ben", { file: "day1-corrected.csv", layout: EN }, corrected);
  expect(await way()).toEqual(["1 10,21", "2 30,41"]);
});

test("an edit whose row gives no point any more is listed; the same reading again is refused", async () => {
  await takeIntake(job, "Ada", { file: "day1.csv", layout: EN }, bytes(TEXT));
  await storeChange(job, "Ada", await edit("1", "note", "by the gate"));
  await expect(readIntakeAgain(job, "Ada", "day1", { layout: EN })).rejects.toMatchObject({ code: "reading-same" });
  const { lost } = await readIntakeAgain(job, "Ada", "day1", { layout: { ...EN, skipRows: 1 } });
  expect(lost).toEqual(["Point 1 (row 1): its note had been changed; the row gives no point now."]);
});

test("withdrawn whole and restored, with what it had replaced", async () => {
  await takeIntake(job, "Ada", { file: "a.csv", layout: EN }, bytes("1,0,0,1,SPOT\n2,5,5,2,SPOT\n"));
  await takeIntake(
    job,
    "Ada",
    { file: "b.csv", layout: EN, clash: "stop", clashes: { "1": "replace" } },
    bytes("1,9,9,9,SPOT\n"),
  );
  expect(await places()).toEqual([
    ["2", 5, 5, 2],
    ["1", 9, 9, 9],
  ]);
  await withdrawIntake(job, "Ada", "b");
  expect(await places()).toEqual([
    ["1", 0, 0, 1],
    ["2", 5, 5, 2],
  ]);
  expect((await loadJob(getPool(), job)).withdrawn.map((k) => k.id)).toEqual(["b"]);
  await turnOneIntake(job, "Ada", "b", "take");
  expect(await places()).toEqual([
    ["2", 5, 5, 2],
    ["1", 9, 9, 9],
  ]);
  await expect(turnOneIntake(job, "Ada", "b", "take")).rejects.toMatchObject({ code: "change-unknown" });
});

test("raw observations are kept, reduced on loading, and follow what is corrected; undo gives the same digits", async () => {
  const K1 = { number: "K1", e: 5000, n: 8000, z: 120 },
    K2 = { number: "K2", e: 5080, n: 8110, z: 124 };
  const target = { number: "7", e: 5040, n: 8020, z: 118, height: 1.65, faces: 2 };
  await takeIntake(
    job,
    "Ada",
    { file: "day1.xml" },
    bytes(surveyXml([K1, K2], [{ id: "one", at: K1, height: 1.5, zero: 1, backsight: K2, targets: [target] }])),
  );
  const state = async () => loadJobState(getPool(), await loadJob(getPool(), job));
  const level = async () => {
    const t = (await state()).points;
    return t.z[t.number.indexOf("7")]!;
  };
  const first = await level();
  expect(first).toBeCloseTo(118, 4);
  await storeChange(job, "Ada", await edit("K1", "elevation", 121));
  expect(await level()).toBeCloseTo(119, 4);
  await storeChange(job, "Ada", {
    type: "named",
    part: "setups",
    name: "day1 / one",
    old: null,
    new: { intake: "day1", setup: "one", instrumentHeight: 1.7 },
  });
  expect(await level()).toBeCloseTo(119.2, 4);
  await storeChange(job, "Ada", await edit("7", "elevation", 100));
  expect(await level()).toBe(100);
  for (let k = 0; k < 3; k++) await undoLast(job, "Ada");
  expect(await level()).toBe(first);
  expect((await state()).delivered[0]!.survey!.observations.count).toBe(4);
});

test("a point that came from a drawing is read-only, and says so", async () => {
  await takeIntake(
    job,
    "Ada",
    { file: "old.dxf" },
    bytes("0\nSECTION\n2\nENTITIES\n0\nPOINT\n8\nOLD\n10\n1\n20\n2\n30\n3\n0\nENDSEC\n0\nEOF\n"),
  );
  await expect(storeChange(job, "Ada", await edit("OLD-1", "elevation", 9))).rejects.toThrow(
    "came from a drawing and is read-only",
  );
});

test("what breaks on the way leaves nothing of the intake", async () => {
  await expect(
    takeIntake(job, "Ada", { file: "day1.csv", layout: EN }, bytes("1,0,0,1,a\n1,0,0,1,a\n")),
  ).rejects.toMatchObject({ code: "number-clash" });
  // The server's own process of the database is ended in the middle, as a killed server is.
  const rows = Array.from({ length: 60_000 }, (_, i) => `${i},${i},${i},1,SPOT`).join("\n");
  const taking = takeIntake(job, "Ada", { file: "day1.csv", layout: EN }, bytes(rows));
  let ended = false;
  const done = taking
    .then(
      () => "taken",
      () => "refused",
    )
    .finally(() => (ended = true));
  while (!ended) {
    const { rows: busy } = await getPool().query(
      "SELECT pid FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND state <> 'idle' AND query LIKE 'COPY points%'",
    );
    if (busy[0]) await getPool().query("SELECT pg_terminate_backend($1)", [busy[0].pid]);
  }
  const outcome = await done;
  expect(await places()).toHaveLength(outcome === "taken" ? 60_000 : 0);
  expect((await loadJob(getPool(), job)).intakes).toHaveLength(outcome === "taken" ? 1 : 0);
  expect(
    (
      await getPool().query(
        "SELECT count(*)::int AS n FROM intake_parts p JOIN intakes i ON i.id = p.intake_id WHERE i.job_id = $1",
        [job],
      )
    ).rows[0].n,
  ).toBe(outcome === "taken" ? 2 : 0);
});

test("any text comes back from the database as it was", () =>
  fc.assert(
    fc.asyncProperty(
      fc
        .string({ unit: "grapheme", maxLength: 30 })
        .filter((s) => !/[\0"\r\n]/.test(s) && s.trim() === s && !s.startsWith("#")),
      async (text) => {
        const id = await createJob({ name: "Texts", unit: "m", order: "EN", book: {} });
        await takeIntake(
          id,
          "Ada",
          { file: "t.csv", layout: { ...EN, columns: ["number", "easting", "northing", "elevation", "note"] } },
          bytes(`1,0,0,,"${text}"`),
        );
        const t = await loadPoints(getPool(), id);
        expect(t.texts[t.note[0]!]).toBe(text);
      },
    ),
    { numRuns: 40 },
  ));

test("templates and layouts of the office, files of a job", async () => {
  await keepInOffice("layout", "rover", { format: "delimited", layout: EN, likeness: "" });
  await keepInOffice("layout", "rover", { format: "delimited", layout: NE, likeness: "no,n,e" });
  expect((await listOffice("layout")).find((l) => l.name === "rover")!.body).toEqual({
    format: "delimited",
    layout: NE,
    likeness: "no,n,e",
  });
  await forgetInOffice("layout", "rover");
  await expect(forgetInOffice("layout", "rover")).rejects.toMatchObject({ code: "change-unknown" });
  await keepJobFile(getPool(), job, "g.gtx", new Uint8Array(4));
  const made = await createJob({
    name: "From a template",
    unit: "ft",
    order: "NE",
    book: {},
    angle: "bearing-dms",
    crews: [{ crew: "A", from: 1, to: 999 }],
    surfaces: [{ name: "ground" }],
  });
  expect((await loadJob(getPool(), made)).definition).toMatchObject({
    unit: "ft",
    angle: "bearing-dms",
    crews: [{ crew: "A", from: 1, to: 999 }],
    surfaces: [{ name: "ground" }],
  });
});

test("cues edited by the office are stored, survive another reading of the file, and are undone", async () => {
  const text = "1,0,0,1,HEDGE\n2,10,0,1,HEDGE\n3,20,0,1,HEDGE\n";
  await takeIntake(job, "Ada", { file: "day1.csv", layout: EN }, bytes(text));
  const cues = '[{"element":"HEDGE","add":["end"]}]';
  await storeChange(job, "Ada", await edit("2", "cues", cues));
  const kept = async () => {
    const t = await table();
    return t.texts[t.cues[t.number.indexOf("2")]!];
  };
  expect(await kept()).toBe(cues);
  await readIntakeAgain(job, "Ada", "day1", { layout: NE });
  expect(await kept()).toBe(cues);
  await undoLast(job, "Ada", true);
  await undoLast(job, "Ada", true);
  expect(await kept()).toBe("");
});

describe("what gives way to what", () => {
  const rows = (from: number, to: number, level = 5) =>
    bytes(Array.from({ length: to - from + 1 }, (_, k) => `${from + k},${from + k},${level},${level},SPOT`).join("\n"));
  /** Numbers of a delivery that are there. */
  const there = async (key: string) => {
    const stored = await loadJob(getPool(), job),
      t = await table(),
      at = stored.intakes.findIndex((k) => k.id === key);
    return Array.from({ length: t.count }, (_, i) => i)
      .filter((i) => t.intake[i] === at && t.deleted[i] === 0)
      .map((i) => Number(t.number[i]))
      .sort((a, b) => a - b);
  };
  const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, k) => from + k);
  const take = (file: string, clash: "replace" | "add" | "keep-first" | "stop", content: Uint8Array) =>
    takeIntake(job, "Ada", { file, layout: EN, clash }, content);

  test.each(["replace", "add", "keep-first", "stop"] as const)(
    "under %s: read again with another crew, what another delivery replaced is lost from neither",
    async (clash) => {
      await take("a.csv", clash, rows(1, 100));
      await take("b.csv", "replace", rows(41, 60, 9));
      const { info, lost } = await readIntakeAgain(job, "Ada", "a", { layout: EN, clash, crew: "B" });
      expect([info.points, info.clashes, lost]).toEqual([100, [], []]);
      expect(await there("a")).toEqual([...range(1, 40), ...range(61, 100)]);
      expect(await there("b")).toEqual(range(41, 60));
      await withdrawIntake(job, "Ada", "b");
      expect(await there("a")).toEqual(range(1, 100));
      const { entry } = { entry: await turnOneIntake(job, "Ada", "b", "take") };
      expect((entry.change as { replaced: number[] }).replaced).toHaveLength(20);
      expect((await there("a")).concat(await there("b"))).toHaveLength(100);
    },
  );

  test("a number that another delivery had is its own again when it is read after that has left", async () => {
    await take("b.csv", "stop", rows(1, 3));
    await take("a.csv", "add", rows(1, 3, 7));
    expect(await there("a")).toEqual([1001, 1002, 1003]);
    await withdrawIntake(job, "Ada", "b");
    await readIntakeAgain(job, "Ada", "a", { layout: EN, clash: "add", crew: "B" });
    expect(await there("a")).toEqual([1, 2, 3]);
  });

  test("renumbered or deleted while the other is away, a point is neither lost nor back when that comes and goes", async () => {
    await take("a.csv", "stop", rows(6, 9));
    await take("b.csv", "replace", rows(7, 8, 9));
    await withdrawIntake(job, "Ada", "b");
    await storeChange(job, "Ada", await edit("7", "number", "700"));
    await storeChange(job, "Ada", await edit("8", "deleted", true));
    await turnOneIntake(job, "Ada", "b", "take");
    expect([await there("a"), await there("b")]).toEqual([
      [6, 9, 700],
      [7, 8],
    ]);
    await withdrawIntake(job, "Ada", "b");
    expect(await there("a")).toEqual([6, 9, 700]);
  });

  test("what was replaced stays so when its successor gets another number, or is taken out, and others come and go", async () => {
    await take("a.csv", "stop", rows(7, 8));
    await take("b.csv", "replace", rows(7, 8, 9));
    await storeChange(job, "Ada", await edit("7", "number", "77"));
    await storeChange(job, "Ada", await edit("8", "deleted", true));
    await take("c.csv", "stop", rows(20, 21));
    await withdrawIntake(job, "Ada", "c");
    expect([await there("a"), await there("b")]).toEqual([[], [77]]);
    await withdrawIntake(job, "Ada", "b");
    expect(await there("a")).toEqual([7, 8]);
  });

  test("of three that replace one another the middle one is withdrawn: the first gives way to the last", async () => {
    await take("a.csv", "stop", rows(1, 5, 1));
    await take("b.csv", "replace", rows(2, 4, 2));
    await take("c.csv", "replace", rows(3, 3, 3));
    await withdrawIntake(job, "Ada", "b");
    expect([await there("a"), await there("c")]).toEqual([[1, 2, 4, 5], [3]]);
    await withdrawIntake(job, "Ada", "c");
    expect(await there("a")).toEqual(range(1, 5));
    await turnOneIntake(job, "Ada", "b", "take");
    expect([await there("a"), await there("b")]).toEqual([
      [1, 5],
      [2, 3, 4],
    ]);
  });

  test("what a delivery passed over is there when the one that had the numbers leaves", async () => {
    await take("a.csv", "stop", rows(1, 3));
    const { info } = await take("b.csv", "keep-first", rows(2, 5, 9));
    expect([info.points, info.clashes.length, info.rows]).toEqual([2, 2, 4]);
    expect(await there("b")).toEqual([4, 5]);
    await withdrawIntake(job, "Ada", "a");
    expect(await there("b")).toEqual([2, 3, 4, 5]);
  });

  test("of several readings the one that stood last is brought back, with what the office made of it", async () => {
    await take("a.csv", "stop", rows(1, 2));
    await readIntakeAgain(job, "Ben", "a", { layout: EN, clash: "stop", crew: "B" });
    await undoLast(job, "Ben", true);
    await storeChange(job, "Ada", await edit("1", "note", "by the gate"));
    await withdrawIntake(job, "Ada", "a");
    await turnOneIntake(job, "Ada", "a", "take");
    const t = await table();
    expect([...(await there("a")), t.texts[t.note[t.number.indexOf("1")]!]]).toEqual([1, 2, "by the gate"]);
  });

  test("two of one number with no answer are refused by name, and nothing is changed", async () => {
    await take("a.csv", "stop", rows(1, 3));
    await withdrawIntake(job, "Ada", "a");
    await take("b.csv", "stop", rows(2, 2));
    await expect(turnOneIntake(job, "Ada", "a", "take")).rejects.toThrow(
      "Number 2 would be there twice, in “a.csv” and in “b.csv”, which came later and has no answer for them.",
    );
    expect(await there("b")).toEqual([2]);
    expect((await loadJob(getPool(), job)).intakes.map((k) => k.id)).toEqual(["b"]);
  });

  test("what gives way is changed by nobody", async () => {
    await take("a.csv", "stop", rows(7, 7));
    const late = await edit("7", "elevation", 8);
    await take("b.csv", "replace", rows(7, 7, 9));
    await expect(storeChange(job, "Ben", late)).rejects.toThrow("giving way to another delivery");
  });

  test("attributes that another reading of the file gives stand beside those of the office", async () => {
    const withKind = columns("number", "easting", "northing", "elevation", "description", "attr:kind", "attr:girth");
    await takeIntake(
      job,
      "Ada",
      { file: "t.csv", layout: { ...withKind, columns: withKind.columns!.slice(0, 6) } },
      bytes("1,0,0,5,TREE 4,oak,2.1\n"),
    );
    await storeChange(job, "Ada", await edit("1", "attributes", '{"kind":"ash"}'));
    await readIntakeAgain(job, "Ada", "t", { layout: withKind });
    const { attributesOf } = await import("@bramble/core/points/attributes"),
      t = await table();
    expect(attributesOf(t, t.number.indexOf("1"))).toBe('{"girth":"2.1","kind":"ash"}');
  });
});

test("redo does again what was taken back last, and nothing that something new came after", async () => {
  await takeIntake(job, "Ada", { file: "a.csv", layout: EN }, bytes("1,0,0,5,SPOT\n"));
  const note = async () => {
    const t = await table();
    return t.texts[t.note[0]!];
  };
  await storeChange(job, "Ada", await edit("1", "note", "first"));
  await undoLast(job, "Ada");
  await storeChange(job, "Ada", await edit("1", "note", "second"));
  await undoLast(job, "Ada");
  await redoLast(job, "Ada");
  expect(await note()).toBe("second");
  await expect(redoLast(job, "Ada")).rejects.toMatchObject({ code: "undo-nothing" });
  await storeChange(job, "Ada", await edit("1", "elevation", 6));
  for (let k = 0; k < 2; k++) await undoLast(job, "Ada");
  expect(await note()).toBe("");
  for (const wanted of ["second", "second"]) {
    await redoLast(job, "Ada");
    expect(await note()).toBe(wanted);
  }
});

test("points observed from a setup that has no position yet are stored, and are without one when they come back", async () => {
  const here = { number: "S", e: 0, n: 0, z: 0 },
    targets = [{ number: "P1", e: 12, n: 30, z: 1, height: 1.6, faces: 1 }];
  const setup = { id: "s1", at: here, height: 1.5, zero: 0, backsight: { ...here, number: "B", e: 40 }, targets };
  // Neither station nor backsight is among the points of the file.
  const { info } = await takeIntake(
    job,
    "Ada",
    { file: "day1.xml", format: "landxml" },
    bytes(surveyXml([{ number: "K", e: 5, n: 6, z: 7 }], [setup])),
  );
  expect(info.points).toBeGreaterThan(1);
  const t = await table(),
    i = t.number.indexOf("P1");
  expect([t.e[i], t.n[i], t.z[i], t.follows[i], t.targetHeight[i]]).toEqual([NaN, NaN, NaN, 7, 1.6]);
});
