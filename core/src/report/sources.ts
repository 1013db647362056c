/** What comparisons rest on, and what stands against them: surfaces, deliveries, checks, findings; lines to sign. */
import { sentenceOf } from "../finding";
import type { JobState } from "../job/model/model";
import { namesIn, refusedInWords } from "../job/told/summary";
import type { Derived } from "../job/chain/values";
import { area } from "../math/figures";
import { decimalsOf, lengthText } from "../math/units";
import { plural } from "../math/words";
import { GROUND } from "../sets/model";
import { breaklineCodes } from "../surface/breaklines";
import type { RingWanted, SurfaceRecipe } from "../surface/model";
import type { AsBuilt } from "../volumes/as-built";
import { surfacesOf } from "../volumes/model";
import { capital, table, text } from "./blocks";
import type { Block, Chapter, Column, Facts } from "./model";

/** Findings told in full. */
const MOST_FINDINGS = 200;

/** The surfaces that were compared, and the deliveries that they come from. */
export function sources(s: JobState, d: Derived, compared: readonly number[]): Chapter {
  const used = new Set(compared.flatMap((k) => surfacesOf(s.volumes[k]!))),
    blocks: Block[] = [];
  for (const [k, recipe] of s.surfaces.entries()) {
    if (!used.has(recipe.name)) continue;
    const made = d.surfaces[k]!;
    blocks.push({ kind: "heading", text: `Surface “${recipe.name}”` });
    if (!made.ok) {
      blocks.push(text(`It could not be built: ${made.refusal.message}`));
      continue;
    }
    const { report } = made.value;
    blocks.push({
      kind: "facts",
      rows: [
        ...surfaceFacts(s, recipe),
        ["Built", `${plural(report.points, "vertex", "vertices")}, ${plural(report.triangles, "triangle")}`],
        [
          "In plan",
          `${area(report.area, s.unit, s.areaUnit)}, on the slope ${area(report.slopeArea, s.unit, s.areaUnit)}`,
        ],
        ["Levels", `${lengthText(report.minZ, s.unit)} to ${lengthText(report.maxZ, s.unit)}`],
        ["Breaklines used", String(report.breaklines)],
        ...(report.outside ? ([["Points outside the edge", String(report.outside)]] as Facts) : []),
        ...(report.densified ? ([["Vertices added", String(report.densified)]] as Facts) : []),
        ...(report.thinned.count ? ([["Vertices left out", String(report.thinned.count)]] as Facts) : []),
      ],
    });
    const refused = refusedInWords(report.refused, s.points, d.lines);
    if (refused.length)
      blocks.push(
        table(
          "Refused",
          [{ title: "What" }, { title: "Why" }],
          refused.slice(0, MOST_FINDINGS).map((r) => [r.what, r.why]),
        ),
      );
  }
  blocks.push(
    table(
      "Deliveries",
      [{ title: "File" }, { title: "Crew" }, { title: "Points", decimals: 0 }],
      s.intakes.map((i) => [i.file, i.crew ?? "", i.points]),
    ),
  );
  return { title: "From what points and lines", blocks };
}

function surfaceFacts(s: JobState, r: SurfaceRecipe): Facts {
  if (r.file !== undefined) return [["Brought by", `“${r.file}”${r.surface ? `, “${r.surface}” in it` : ""}`]];
  const { breaklines: b = {}, edge, holes = [] } = r;
  const ring = (x: RingWanted) =>
    "code" in x ? `closed lines of ${x.code}` : `a drawn ring of ${x.ring.length} corners`;
  const facts: Facts = [
    ["Points", r.points === undefined || r.points === GROUND ? "all ground points" : `the set “${r.points}”`],
    [
      "Breaklines",
      breaklineCodes(r)
        .map((c) => (c === "*" ? "all that the code book has" : c))
        .join(", ") || "none",
    ],
    [
      "Edge",
      edge === undefined || edge === "hull"
        ? "round all of it"
        : "fit" in edge
          ? `fitted, ${lengthText(edge.fit, s.unit)}`
          : ring(edge),
    ],
  ];
  if (b.also?.length || b.except?.length)
    facts.push(["Breaklines by hand", `${b.also?.length ?? 0} more, ${b.except?.length ?? 0} left out`]);
  if (b.densify) facts.push(["Longest piece of a breakline", lengthText(b.densify, s.unit)]);
  if (b.thin) facts.push(["Breaklines thinned", `within ${lengthText(b.thin, s.unit)}`]);
  if (holes.length) facts.push(["Holes", holes.map(ring).join(", ")]);
  if (r.longestSide) facts.push(["Longest side on the outline", lengthText(r.longestSide, s.unit)]);
  if (r.swap?.length || r.drop?.length)
    facts.push([
      "Corrected by hand",
      `${plural(r.swap?.length ?? 0, "side")} swapped, ${plural(r.drop?.length ?? 0, "triangle")} taken out`,
    ]);
  return facts;
}

/** Checks of what was built, where the job has some. */
export function asBuilt(s: JobState, d: Derived): Chapter[] {
  const checks = d.differences.flatMap((c) => (c.ok ? [c.value] : []));
  if (checks.length === 0) return [];
  const decimals = decimalsOf(s.unit),
    hasPairs = checks.some((c) => c.pairs),
    unit = (name: string): Column => ({ title: `${name}, ${s.unit}`, decimals }),
    row = (c: AsBuilt) => {
      const { count, mean, rms, min, max } = c.figures,
        outside = c.outside.reduce((sum, x) => sum + x, 0);
      return [
        c.name,
        c.pairs ? c.rows.length : count,
        outside,
        ...(hasPairs ? [c.pairs?.tolerance ?? null] : []),
        c.tolerance,
        ...[mean, rms, min, max].map((x) => (Number.isNaN(x) ? null : x)),
      ];
    };
  const count = (title: string): Column => ({ title, decimals: 0 });
  return [
    {
      title: "As built",
      blocks: [
        table(
          "Checks against the design",
          [
            { title: "Check" },
            count("Points"),
            count("Outside"),
            ...[...(hasPairs ? ["Tolerance in plan"] : []), "Tolerance", "Mean", "RMS", "Least", "Most"].map(unit),
          ],
          checks.map(row),
        ),
      ],
    },
  ];
}

export function findings(s: JobState, d: Derived): Chapter {
  const names = namesIn(s.points, d.lines),
    open = d.findings.filter((f) => f.accepted === undefined),
    accepted = d.findings.filter((f) => f.accepted !== undefined),
    more = Math.max(0, open.length - MOST_FINDINGS);
  const blocks: Block[] = [];
  if (open.length === 0) blocks.push(text("No finding is open."));
  else
    blocks.push(
      table(
        plural(open.length, "open finding"),
        [{ title: "Finding" }, { title: "What was found" }],
        open.slice(0, MOST_FINDINGS).map((f) => [capital(f.kind.replaceAll("-", " ")), sentenceOf(f, names)]),
      ),
    );
  if (more > 0) blocks.push(text(`And ${plural(more, "more finding")}, which the job lists.`));
  if (accepted.length)
    blocks.push(
      table(
        plural(accepted.length, "accepted finding"),
        [{ title: "What was found" }, { title: "Accepted because" }],
        accepted.slice(0, MOST_FINDINGS).map((f) => [sentenceOf(f, names), f.accepted!]),
      ),
    );
  return { title: "Open findings", blocks };
}

export const signatures = (): Chapter => ({
  title: "Signatures",
  blocks: [{ kind: "signatures", roles: ["Made by", "Checked by", "Received by"] }],
});
