/**
 * All checks of a job, each with what it reads. Checks of lines as they are built and of surfaces come with those
 * stages.
 */
import { clocksSetBack } from "../../checks/clock";
import { doubledLines, nearlyClosed, overlappingAreas } from "../../checks/doubles";
import { limitsOf } from "../../checks/limits";
import { longTriangles } from "../../checks/long-triangles";
import { noGroundNear } from "../../checks/kept-out";
import { shotsFarApart } from "../../checks/far-apart";
import { interruptedLines } from "../../checks/interrupted";
import { axesFindings } from "../../checks/axes";
import { scaleFindings } from "../../checks/ground-grid";
import { farAwayFindings } from "../../checks/far-away";
import { missingElevations, poorPrecision, zeroElevations } from "../../checks/elevations";
import { intakeFindings, numbersOutsideRange, unplacedFindings } from "../../checks/intakes";
import { crossingThemselves, longSegments } from "../../checks/lines";
import { setupFindings } from "../../checks/setups";
import { lostFindings } from "../../construct/told";
import { lostMoves } from "../../checks/moves";
import { ignoredPast } from "../../codes/past";
import { codeFindings } from "../../codes/read";
import type { Noticed } from "../../finding";
import { lostNames } from "../../lines/names";
import { findPoints } from "../../points/refs";
import type { Checked } from "./values";

export interface Check {
  name: string;
  reads: readonly (keyof Checked)[];
  make(from: Checked): Noticed[];
}

const check = <const R extends readonly (keyof Checked)[]>(
  name: string,
  reads: R,
  make: (from: Pick<Checked, R[number]>) => Noticed[],
): Check => ({ name, reads, make: make as (from: Checked) => Noticed[] });

const POSITIONS = ["count", "e", "n", "deleted"] as const;

export const CHECKS: readonly Check[] = [
  check("intakes", ["count", "intake", "row", "number", "deleted", "intakes", "unit"], (v) =>
    intakeFindings(v, v.intakes, v.unit),
  ),
  check("unplaced", ["count", "intake", "row", "deleted", "intakes"], (v) => unplacedFindings(v, v.intakes)),
  check("ranges", ["count", "intake", "number", "deleted", "intakes", "crews"], (v) =>
    v.crews ? numbersOutsideRange(v, v.intakes, v.crews) : [],
  ),
  check("clocks", [...POSITIONS, "intake", "row", "time", "intakes"], (v) => clocksSetBack(v, v.intakes)),
  check("positions", [...POSITIONS, "intake", "row", "intakes", "unit"], (v) => {
    const exchanged = axesFindings(v, v.intakes);
    return [...exchanged, ...farAwayFindings(v, v.intakes, v.unit, new Set(exchanged.flatMap((f) => f.points)))];
  }),
  check("constructed", ["lostPoints", "program", "e", "n", "deleted"], (v) => lostFindings(v.lostPoints, v.program, v)),
  check("moves", ["movesMade", "e", "n", "deleted"], (v) => lostMoves(v.movesMade, v)),
  check("setups", ["setupReports", "intakes", "unit"], (v) => setupFindings(v.setupReports, v.intakes, v.unit)),
  check("scales", ["common", "e", "n", "deleted", "intakes", "unit"], (v) =>
    scaleFindings(v.common, v, v.intakes, v.unit),
  ),
  check("past", ["coded", "count", "intake", "row", "time", "deleted", "id", "e", "n", "shotAt"], (v) =>
    ignoredPast(v, v.coded),
  ),
  check("codes", ["coded", "count", "deleted", "attributes", "texts", "compiled"], (v) =>
    codeFindings(v, v.coded, v.compiled),
  ),
  check("zero", [...POSITIONS, "z", "unit"], (v) => zeroElevations(v, v.unit)),
  check("missing", [...POSITIONS, "z"], missingElevations),
  check("precision", [...POSITIONS, "precision", "measured", "tolerance", "unit"], (v) =>
    poorPrecision(v, v.tolerance.precision, v.unit),
  ),
  check("lines", ["assembled"], (v) => v.assembled.findings),
  check("names", ["named", "count", "id", "intake", "row", "number", "deleted", "cameAs", "intakes"], (v) =>
    lostNames(v.named.lost, findPoints(v, v.intakes).numberOf),
  ),
  check("segments", ["lines", "unit"], (v) => longSegments(v.lines, v.unit)),
  check("crossings", ["lines", "tolerance"], (v) => crossingThemselves(v.lines, v.tolerance.chord)),
  check("doubled", ["lines"], (v) => doubledLines(v.lines)),
  check("nearly closed", ["lines", "e", "n", "tolerance", "unit"], (v) =>
    nearlyClosed(v.lines, v, v.tolerance.repeat, v.unit),
  ),
  check("interrupted", ["lines", "e", "n", "unit"], (v) => interruptedLines(v.lines, v, v.unit)),
  check("overlaps", ["lines", "tolerance"], (v) => overlappingAreas(v.lines, v.tolerance.chord)),
  check("kept out", [...POSITIONS, "z", "surface", "coded", "checks", "unit"], (v) =>
    noGroundNear(v, v.coded, limitsOf("no-ground-near", v.checks, v.unit).within, v.unit),
  ),
  check("long triangles", ["surfaces", "surfaceRecipes", "unit"], (v) =>
    longTriangles(
      v.surfaces.flatMap((s) => (s.ok ? [{ name: s.name, surface: s.value.surface }] : [])),
      v.surfaceRecipes,
      v.unit,
    ),
  ),
  check("far apart", ["surfaces", "surfaceRecipes", "checks", "unit"], (v) =>
    shotsFarApart(
      v.surfaces.flatMap((s) => (s.ok ? [{ name: s.name, surface: s.value.surface }] : [])),
      v.surfaceRecipes,
      limitsOf("shots-far-apart", v.checks, v.unit).apart,
      v.unit,
    ),
  ),
  check("surfaces", ["surfaces"], (v) => v.surfaces.flatMap((s) => (s.ok ? s.value.findings : []))),
];
