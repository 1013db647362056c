/** A plan sheet: the drawing to scale on paper, with all that a drafter puts round it. Pages as marks, ready to print. */
import { layOutTexts, type LayoutSource } from "../../drawing/layout";
import type { LineLook } from "../../drawing/display";
import { refusal } from "../../errors";
import { append } from "../../math/many";
import { lengthText, METRES, UNIT_NAMES } from "../../math/units";
import { extentOf } from "../../points/table";
import { pointsTable } from "../columns";
import { lineFeatures } from "../features";
import { listTable } from "../lists";
import type { PlanFile } from "../files";
import { colorOfLine, type HandoverSource } from "../source";
import type { OutTable } from "../table";
import {
  keyPlan,
  legend,
  legendEntries,
  northPoint,
  scaleBar,
  titleBlock,
  type LegendEntry,
  type TitleRows,
} from "./aside";
import { drawnOf, fieldMarks, type Drawn } from "./drawing";
import { gridMarks } from "./grid";
import { box, type Mark, type Page, type Rectangle } from "./page";
import { onPaper, sheetsOf, type Reach, type Sheets } from "./sheets";
import { tablePages, tableWithin } from "./tables";
import { turnedSource } from "./turned";

export interface PlanSource extends HandoverSource {
  layout: LayoutSource;
  /** Crew of the job, for the title block, and which state it is: “after entry 12 of its ledger”. */
  crew: string;
  of: string;
}

export interface Progress {
  what: string;
  share: number;
}

/** Between lines of the grid at least, mm: a finer one hides the plan, and would be more than anybody's patience. */
const FINEST_GRID = 5;

/** The sheets of a plan, without what is on them. Throws a Refusal where there is nothing to draw, or too many. */
export function planSheets(file: PlanFile, s: PlanSource): Sheets {
  const reach = reachOf(s);
  const sheets = sheetsOf(file, reach, METRES[s.unit], (x, y, width, height, turned) => {
    const put = onPaper(turned);
    for (let k = 0; k < reach.length; k += 2) {
      const [px, py] = put(reach[k]!, reach[k + 1]!);
      if (px >= x && px <= x + width && py >= y && py <= y + height) return true;
    }
    return false;
  });
  const least = FINEST_GRID * sheets.unitsPerMm;
  if (file.grid && file.grid < least)
    throw refusal("plan-grid", {
      file: file.file,
      step: lengthText(file.grid, s.unit),
      scale: sheets.scale,
      least: lengthText(least, s.unit),
    });
  return sheets;
}

/** All points and vertices of lines that are drawn. */
function reachOf({ table: t, chains }: HandoverSource): Reach {
  const all: number[] = [];
  if (extentOf(t)) for (let i = 0; i < t.count; i++) if (!t.deleted[i]) all.push(t.e[i]!, t.n[i]!);
  for (let k = 0; k < chains.xyz.length; k += 3) all.push(chains.xyz[k]!, chains.xyz[k + 1]!);
  return Float64Array.from(all);
}

export function* planPages(file: PlanFile, s: PlanSource): Generator<Progress, Page[]> {
  const sheets = planSheets(file, s);
  yield { what: "placing texts", share: 0.05 };
  const drawn = drawnFor(sheets, s),
    pages: Page[] = [];
  let free: Rectangle | undefined;
  // What is short enough stands beside the first sheet, the rest on pages of its own.
  const besides: Mark[] = [],
    tables = tablesOf(file, s).flatMap((t) => {
      const marks = beside(t);
      if (!marks) return Array.from(tablePages(t.table, t.title, sheets.frame.field), (m) => ({ ...t, marks: m }));
      append(besides, marks);
      return [];
    }),
    total = sheets.windows.length + tables.length;
  for (const [k, field] of sheets.windows.entries()) {
    const steps = fieldMarks(drawn, field, sheets.frame.field);
    let step = steps.next();
    for (; !step.done; step = steps.next()) yield { what: `sheet ${k + 1}`, share: 0.2 + (0.8 * k) / total };
    const used = usedIn(drawn, sheets, k);
    pages.push({
      name: `sheet ${k + 1}`,
      width: sheets.frame.width,
      height: sheets.frame.height,
      marks: [
        ...(file.grid === false
          ? []
          : gridMarks(sheets.turned, field, sheets.frame.field, sheets.unitsPerMm, file.grid)),
        ...step.value,
        box(sheets.frame.field, 0.35),
        ...asideMarks(file, s, sheets, k, total, used).marks,
        ...(k === 0 ? besides : []),
      ],
    });
  }
  for (const [j, t] of tables.entries())
    pages.push({
      name: t.name,
      width: sheets.frame.width,
      height: sheets.frame.height,
      marks: [...t.marks, ...asideMarks(file, s, sheets, sheets.windows.length + j, total, undefined).marks],
    });
  return pages;

  function beside(t: WantedTable): Mark[] | undefined {
    free ??= asideMarks(file, s, sheets, 0, 1, usedIn(drawn, sheets, 0)).free;
    const placed = tableWithin(withoutNames(t.table), t.title, free);
    if (placed) free = { ...free, height: free.height - placed.height };
    return placed?.marks;
  }
}

function drawnFor(sheets: Sheets, s: PlanSource): Drawn {
  const { field } = sheets.frame,
    frames = sheets.windows.map(({ x, y }) => ({
      minE: x,
      minN: y,
      maxE: x + field.width * sheets.unitsPerMm,
      maxN: y + field.height * sheets.unitsPerMm,
    })),
    source = { ...turnedSource(s.layout, sheets.turned), frames },
    looks = s.lines.map((line): LineLook & { closed: boolean } => ({
      kind: line.entry.kind,
      group: line.entry.group ?? "",
      layer: line.entry.layer ?? line.code,
      style: line.entry.style,
      color: colorOfLine(s, line),
      closed: line.closed,
    }));
  return drawnOf(source, layOutTexts(source, sheets.unitsPerMm), looks);
}

/** Codes whose lines and symbols are on a sheet. */
interface UsedCodes {
  lines: Set<string>;
  points: Set<string>;
  contours: boolean;
}

function usedIn({ list, source }: Drawn, { windows, frame, unitsPerMm }: Sheets, sheet: number): UsedCodes {
  const used: UsedCodes = { lines: new Set(), points: new Set(), contours: false },
    { x: x0, y: y0 } = windows[sheet]!,
    [x1, y1] = [x0 + frame.field.width * unitsPerMm, y0 + frame.field.height * unitsPerMm];
  const isIn = (x: number, y: number) => x >= x0 && x <= x1 && y >= y0 && y <= y1,
    { xyz, starts } = source.chains;
  for (const p of list) {
    if (p.is === "text" || p.hidden) continue;
    if (p.is === "symbol") {
      if (!p.look.shot && isIn(source.table.e[p.point]!, source.table.n[p.point]!))
        used.points.add(p.look.code.toUpperCase());
      continue;
    }
    const code = source.lines[p.line]!.code.toUpperCase();
    if (used.lines.has(code)) continue;
    for (let v = starts[p.line]!; v < starts[p.line + 1]!; v++)
      if (isIn(xyz[3 * v]!, xyz[3 * v + 1]!)) {
        used.lines.add(code);
        break;
      }
  }
  used.contours = source.contours.some((c) => {
    for (let k = 0; k < c.xy.length; k += 2) if (isIn(c.origin[0] + c.xy[k]!, c.origin[1] + c.xy[k + 1]!)) return true;
    return false;
  });
  return used;
}

/** Between the legend and a table below it. */
const LEGEND_APART = 4;
const SIGN = ["Drawn", "Checked"];

function asideMarks(
  file: PlanFile,
  s: PlanSource,
  sheets: Sheets,
  sheet: number,
  total: number,
  used: UsedCodes | undefined,
): { marks: Mark[]; free: Rectangle } {
  const marks: Mark[] = [],
    { frame, aside, below } = sheets.frame,
    system = s.system ?? "local grid";
  marks.push(box(frame, 0.5), box(aside, 0.35));
  const rows: TitleRows = [
    ...(s.client ? [["Client", s.client] as [string, string]] : []),
    ...(s.crew ? [["Surveyed by", s.crew] as [string, string]] : []),
    ...(s.date ? [["Date", s.date] as [string, string]] : []),
    ["Scale", `1 : ${sheets.scale}`],
    ["Coordinates", `${system}, ${UNIT_NAMES[s.unit]}`],
    ...(s.contours.length && used?.contours ? [["Contours", contourWords(s)] as [string, string]] : []),
    ["State", s.of],
    ["Sheet", `${sheet + 1} of ${total}`],
  ];
  const title = file.title ?? "Plan",
    [left, right] = below ? halves(aside) : [aside, aside],
    high = titleBlock(right, s.name, title, rows, SIGN, marks);
  // What is left: above the title block, or beside it in a band.
  let room: Rectangle = below ? left : { ...aside, y: aside.y + high, height: aside.height - high };
  if (!used) return { marks, free: room };
  const take = (height: number) => (room = { ...room, height: room.height - height });
  if (file.north !== false || file.bar !== false) {
    const foot = room.y;
    if (file.bar !== false)
      scaleBar(
        room.x + (file.north === false ? 4 : 20),
        foot + 6,
        Math.min(80, room.width - (file.north === false ? 16 : 32)),
        sheets.unitsPerMm,
        s.unit,
        marks,
      );
    if (file.north !== false) northPoint(room.x + 9, foot + 8, sheets.turned.turn, marks);
    room = { ...room, y: foot + 22, height: room.height - 22 };
  }
  if (sheets.windows.length > 1 && !below) take(keyPlan(room, sheets, sheet, marks));
  if (file.legend !== false) {
    const entries = [...legendEntries(s.book, used.lines, used.points), ...(used.contours ? contourEntries(s) : [])],
      { shown, height } = legend(room, entries, marks);
    if (shown < entries.length) marks.push(...restOfLegend(room, entries.length - shown));
    take(shown < entries.length ? room.height : height + LEGEND_APART);
  }
  return { marks, free: room };
}

/** A band is divided: legend to the left, title block to the right. */
function halves(r: Rectangle): [Rectangle, Rectangle] {
  const right = Math.min(78, r.width / 2);
  return [
    { ...r, width: r.width - right },
    { ...r, x: r.x + r.width - right, width: right },
  ];
}

function restOfLegend(r: Rectangle, count: number): Mark[] {
  return [
    { is: "text", text: `and ${count} more codes`, x: r.x + 2.5, y: r.y + 0.8, size: 2, align: -1, color: "#6f6266" },
  ];
}

const contourWords = ({ contours, unit }: HandoverSource) =>
  [...new Set(contours.map((c) => c.interval))].map((x) => `every ${x} ${unit}`).join(", ");

function contourEntries({ contours, drawing }: HandoverSource): LegendEntry[] {
  return contours.flatMap((c): LegendEntry[] => {
    const look = drawing.surfaces?.find((x) => x.surface === c.surface);
    if (look?.hidden || c.level.length === 0) return [];
    const name = contours.length > 1 ? `Contour, ${c.surface}` : "Contour";
    return [
      { name, color: look?.color ?? "#9b7b4f", weight: look?.weight ?? 0.13 },
      ...(c.index.includes(1)
        ? [{ name: `${name}, index`, color: look?.indexColor ?? "#7a5a2e", weight: look?.indexWeight ?? 0.25 }]
        : []),
    ];
  });
}

interface WantedTable {
  name: string;
  title: string;
  table: OutTable;
}

function tablesOf(file: PlanFile, s: PlanSource): WantedTable[] {
  const wanted = file.tables ?? [],
    columns = ["number", "easting", "northing", "elevation", "code"] as const;
  return [
    ...(wanted.includes("points")
      ? [{ name: "points", title: `Points, ${s.unit}`, table: pointsTable({ columns: [...columns] }, s, s.rows) }]
      : []),
    ...(wanted.includes("areas") && lineFeatures(s).some((f) => f.closed)
      ? [{ name: "areas", title: "Areas", table: areasOf(s) }]
      : []),
  ];
}

/** Without the numbers of their points, which are the plan's own. */
function areasOf(s: PlanSource) {
  const table = listTable({ of: "areas" }, s);
  return { ...table, columns: table.columns.filter((c) => c.title !== "points" && c.title !== "layer") };
}

/** Beside a sheet the legend says what a code is called. */
const withoutNames = (table: OutTable): OutTable => ({
  ...table,
  columns: table.columns.filter((c) => c.title !== "name"),
});
