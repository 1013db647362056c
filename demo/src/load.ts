/** Loads the demo jobs into the database by the ways that a person has: intakes and changes of the ledger. */
import { GENERAL_BOOK, nameOf, NAMED_PARTS, type EditableChange } from "@bramble/core";
import { createJob, getPool, loadPoints, storeChange, takeIntake } from "@bramble/db";
import { demoAdditions } from "./additions.ts";
import { DEMO_NAME, DEMO_DRAWING, DEMO_PARTS, demoFiles, demoRepairs, DESIGN, YARD_LAYOUT, yardText } from "./files.ts";
import { CREW_A, CREW_B, observe } from "./crews.ts";

const AUTHOR = "Demo";

export async function loadDemo(): Promise<void> {
  await loadYard();
  const files = demoFiles();
  const id = await createJob({
    name: DEMO_NAME,
    unit: "m",
    order: "NE",
    date: "2031-04-17",
    book: GENERAL_BOOK,
    drawing: DEMO_DRAWING,
    crews: [
      { crew: "A", from: 1, to: 4999 },
      { crew: "B", from: 5001, to: 9999 },
    ],
  });
  const bytes = (name: string) => new TextEncoder().encode(files[name]! as string);
  await takeIntake(id, AUTHOR, { ...CREW_A }, bytes(CREW_A.file));
  await takeIntake(id, AUTHOR, { ...CREW_B, clash: "add", add: 1000 }, bytes(CREW_B.file));
  await takeIntake(id, AUTHOR, { ...DESIGN }, bytes(DESIGN.file));

  const { a, b, blunders } = observe();
  const points = await loadPoints(getPool(), id);
  const find = (intake: number, number: string) =>
    points.number.findIndex((x, i) => x === number && points.intake[i] === intake);
  const swapped = blunders.find((x) => x.kind === "axes-swapped")!.points;
  const edits = demoRepairs(swapped, b).flatMap(({ number, northing, easting }) => {
    const i = find(1, number);
    return [
      { id: points.id[i]!, field: "northing" as const, old: points.n[i]!, new: northing },
      { id: points.id[i]!, field: "easting" as const, old: points.e[i]!, new: easting },
    ];
  });
  await storeChange(id, AUTHOR, { type: "points", edits });
  const zero = find(1, blunders.find((x) => x.kind === "zero-elevation")!.points[0]!);
  await storeChange(id, AUTHOR, {
    type: "points",
    edits: [{ id: points.id[zero]!, field: "surface", old: "auto", new: "out" }],
  });
  const added = demoAdditions(files[CREW_A.file] as string, a, b);
  await storeParts(id, { ...DEMO_PARTS, added });
}

async function loadYard(): Promise<void> {
  const id = await createJob({
    name: "Gorsefold, gate yard",
    unit: "ftUS",
    order: "NE",
    date: "2031-04-18",
    book: GENERAL_BOOK,
  });
  await takeIntake(
    id,
    AUTHOR,
    { id: "yard", file: "gate-yard.txt", crew: "A", layout: { ...YARD_LAYOUT, columns: [...YARD_LAYOUT.columns] } },
    new TextEncoder().encode(yardText()),
  );
  await storeParts(id, {
    surfaces: [{ name: "yard", breaklines: { codes: ["*"] } }],
    contours: [{ surface: "yard", interval: 0.5, index: 4 }],
    volumes: [{ name: "to level 304", surface: "yard", level: 304 }],
    handover: [
      { file: "yard-points.csv", format: "csv", decimals: 2 },
      { file: "yard.dxf", format: "dxf" },
    ],
  });
}

async function storeParts(id: number, parts: Record<string, unknown[]>): Promise<void> {
  for (const part of NAMED_PARTS) {
    for (const body of parts[part] ?? []) {
      await storeChange(id, AUTHOR, {
        type: "named",
        part,
        name: nameOf(part, body),
        old: null,
        new: body,
      } as EditableChange);
    }
  }
}
