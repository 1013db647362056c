/** The report of comparisons: what was compared, from what, how, what came of it, and what stands against it. */
import { codeOf } from "../codes/read";
import { lineName } from "../lines/model";
import { settingOf } from "../job/model/settings";
import { area, AREA_DECIMALS, areaUnitShort, VOLUME_DECIMALS, volumeUnitShort } from "../math/figures";
import { formatGrouped, plainNumber } from "../math/round";
import { areaFactor, decimalsOf, lengthText, volumeFactor } from "../math/units";
import type { JobState } from "../job/model/model";
import type { Derived } from "../job/chain/values";
import { outlineOf } from "../surface/outline";
import { linesCrossed, profileOf, levelOn, type PlanWay, type Section } from "../surface/section";
import { differenceMap } from "../volumes/map";
import type { ComparedPair } from "../volumes/measure";
import { kindOf, surfacesOf, type Figures, type VolumeRecipe, type VolumeResult } from "../volumes/model";
import { opinionSteps, type Opinions } from "../volumes/opinion";
import { frameOf } from "../volumes/parallel";
import { levelPrecisionOf, shotPrecision } from "../volumes/precision";
import type { AlongWay } from "../volumes/along-way";
import { boxOf, sectionsWanted, type EndAreas } from "../volumes/second-opinion";
import { axisOf } from "../job/chain/design-ways";
import { stationText } from "../math/station-text";
import { about, balanceWords, endAreasWords, assumptions, figuresTold } from "../volumes/words";
import { capital, table, text } from "./blocks";
import type { Block, Chapter, Column, Facts, Report } from "./model";
import { asBuilt, findings, signatures, sources } from "./sources";

export interface ReportWanted {
  /** Names of the comparisons, in their order. */
  comparisons: readonly string[];
  /** Who made it, when, and which state of the job it is of, in words. */
  author: string;
  at: string;
  of: string;
}

/** Vertices of an outline that are drawn. */
const MOST_OUTLINE = 20_000,
  SECTIONS = 3,
  /** How far from the edge a section begins, as a share of its length. */
  INSET = 0.004;

/** A step of the making: what is being worked out now, and the share of all that is done. */
export interface ReportStep {
  what: string;
  share: number;
}

/** Makes a report step by step; what is told last is the report itself. */
export function* volumeReport(s: JobState, d: Derived, wanted: ReportWanted): Generator<ReportStep, Report> {
  const named = wanted.comparisons.flatMap((name) => {
    const k = s.volumes.findIndex((v) => v.name === name);
    return k < 0 ? [] : [k];
  });
  const chapters: Chapter[] = [],
    steps = named.length + 1;
  for (const [done, k] of named.entries()) {
    const { name } = s.volumes[k]!;
    yield { what: `comparison ${name}`, share: done / steps };
    chapters.push(yield* comparison(s, d, k, (part) => ({ what: name, share: (done + part) / steps })));
  }
  yield { what: "sources and findings", share: named.length / steps };
  chapters.push(sources(s, d, named), ...asBuilt(s, d), findings(s, d), signatures());
  return { title: "Volumes", facts: jobFacts(s, wanted), chapters };
}

function jobFacts(s: JobState, { author, at, of }: ReportWanted): Facts {
  const given = (what: string, value: string | undefined): Facts => (value ? [[what, value]] : []);
  return [
    ["Job", s.name],
    ...given("Client", s.client),
    ...given("Crew", s.crew),
    ...given("Date of survey", s.date),
    ["Made", `${at} by ${author}`],
    ["State of the job", of],
    ["Unit", UNITS[s.unit]],
    ...given("Coordinate system", s.system),
  ];
}

const UNITS: Record<JobState["unit"], string> = { m: "metres", ft: "feet", ftUS: "US survey feet" };

function* comparison(
  s: JobState,
  d: Derived,
  k: number,
  step: (share: number) => ReportStep,
): Generator<ReportStep, Chapter> {
  const recipe = s.volumes[k]!,
    [result, made] = [d.volumes[k]!, d.pairs[k]!],
    title = recipe.name;
  const given = comparedFacts(s, recipe);
  if (!result.ok || !made.ok) {
    const why = result.ok ? (made.ok ? "" : made.refusal.message) : result.refusal.message;
    return { title, blocks: [{ kind: "facts", rows: given }, text(`It could not be worked out: ${why}`)] };
  }
  const pair = made.value,
    shots = shotPrecision(s.points, s.levelPrecision, s.unit),
    rings = pair.within?.areaRings ?? [];
  const facts: Facts = [...given, ["Method", capital(result.value.method)]];
  let opinions: Opinions = {};
  const axis = axisOf(recipe, d.lines, s);
  for (const more of opinionSteps(recipe, pair, shots, axis)) {
    opinions = { ...opinions, ...more };
    yield step(0.5);
  }
  const map = differenceMap(pair);
  yield step(0.8);
  const ways = axis && opinions.endAreas ? waysAcross(s, axis, opinions.endAreas) : sectionWays(recipe, pair);
  return {
    title,
    blocks: [
      { kind: "facts", rows: facts },
      ...figuresOf(s, recipe, result.value, opinions),
      ...(opinions.precision ? [text(precisionText(s, opinions))] : []),
      ...mostMoving(s, d, opinions),
      ...(result.value.storage ? storage(s, result.value) : []),
      ...(map.edges.length > 0 || kindOf(recipe) !== "storage"
        ? [
            {
              kind: "map" as const,
              title: "Cut and fill",
              unit: s.unit,
              map,
              deadband: recipe.deadband ?? 0,
              outline: outlineOf(pair.from, MOST_OUTLINE),
              areas: (pair.within?.areas ?? []).map((name, a) => ({
                name,
                ring: rings.filter((r) => r.area === a).map((r) => r.ring.flat()),
              })),
              ways: ways.map(({ name, way }) => ({ name, way: way.flatMap(([e, n]) => [e, n]) })),
              areaText: (x: number) => area(x, s.unit, s.areaUnit),
            },
          ]
        : []),
      ...ways.flatMap((w) => sectionBlock(s, d, recipe, pair, w)),
    ],
  };
}

function comparedFacts(s: JobState, r: VolumeRecipe): Facts {
  const within = r.within === undefined ? "the whole in common" : areasText(r),
    factor = (x: number | undefined) => (x === undefined ? "1" : plainNumber(x));
  return [
    ["Compared", capital(about(r))],
    ["Within", within],
    ...(r.deadband
      ? ([["Deadband", `differences up to ${lengthText(r.deadband, s.unit)} do not count`]] as Facts)
      : []),
    ...(r.bulking
      ? ([["Bulking", `cut times ${factor(r.bulking.cut)}, fill times ${factor(r.bulking.fill)}`]] as Facts)
      : []),
  ];
}

function areasText({ within }: VolumeRecipe): string {
  const one = (a: object) =>
    "code" in a
      ? [(a as { code: string; run?: string }).code, (a as { run?: string }).run].filter(Boolean).join(" ")
      : `a drawn area${"name" in a ? ` “${String(a.name)}”` : ""}`;
  if (!Array.isArray(within)) return one(within!);
  return Array.isArray(within[0]) ? "a drawn area" : (within as object[]).map(one).join(", ");
}

/** Figures beside their second opinions, and by area. */
function figuresOf(s: JobState, recipe: VolumeRecipe, v: VolumeResult, o: Opinions): Block[] {
  const unit = volumeUnitShort(s.unit, s.volumeUnit),
    factor = volumeFactor(s.unit, s.volumeUnit ?? "unit"),
    figure = (x: number | undefined) => (x === undefined ? null : x * factor),
    at = (name: string): Column => ({ title: name, decimals: VOLUME_DECIMALS[s.volumeUnit ?? "unit"] });
  const told = figuresTold(kindOf(recipe));
  const rows = told.map(({ key, name, sign }) => {
    const beside = (x: { cut: number; fill: number } | undefined) =>
      x && sign * (key === "net" ? x.fill - x.cut : x[key]);
    return [
      `${name}, ${unit}`,
      figure(sign * v[key]),
      figure(o.precision?.[key].total),
      figure(beside(o.endAreas)),
      figure(beside(o.grid)),
      v.bulked && key !== "net" ? figure(v.bulked[key]) : null,
    ];
  });
  const bulked = v.bulked !== undefined,
    columns = [
      { title: "Figure" },
      at("Exact"),
      at("± (σ)"),
      at("By end areas"),
      at("By a grid"),
      at("Times its factor"),
    ];
  const blocks: Block[] = [
    table("Figures", bulked ? columns : columns.slice(0, -1), bulked ? rows : rows.map((row) => row.slice(0, -1))),
  ];
  const shown = { unit: s.unit, angle: settingOf(s, "angle"), stations: settingOf(s, "stations") },
    inCommon = (x: number) => area(x, s.unit, s.areaUnit);
  const words = [
    `Cut on ${inCommon(v.cutArea)}, fill on ${inCommon(v.fillArea)}, in common ${inCommon(v.area)}.`,
    o.endAreas && `End areas: ${endAreasWords(o.endAreas, recipe, shown)}.`,
    o.grid && `Grid: ${formatGrouped(o.grid.cells, 0)} cells of ${lengthText(o.grid.cell, s.unit)}.`,
    o.balance && `${balanceWords(o.balance, "the second surface", s.unit)}.`,
  ];
  blocks.push(text(words.filter(Boolean).join(" ")));
  if (v.byArea) {
    const byArea = (a: Figures & { name: string }, k: number) => [
      a.name,
      ...told.map(({ key, sign }) => figure(sign * a[key])),
      figure(o.byArea?.[k]?.net.total),
      inCommon(a.area),
    ];
    blocks.push(
      table(
        `By area, ${unit}`,
        [{ title: "Area" }, ...told.map(({ name }) => at(name.split(",")[0]!)), at("±"), { title: "On" }],
        v.byArea.map(byArea),
      ),
    );
  }
  return blocks;
}

function precisionText(s: JobState, { precision }: Opinions): string {
  const held = levelPrecisionOf(s.levelPrecision, s.unit);
  return (
    `${assumptions(precision!, s.unit, s.volumeUnit)} ` +
    `A level without a precision of its own is held to be good to ±${lengthText(held.shot, s.unit)}, ` +
    `all levels of a surface together to ±${lengthText(held.common, s.unit)}.`
  );
}

function mostMoving(s: JobState, d: Derived, { precision }: Opinions): Block[] {
  const most = precision?.most ?? [];
  if (most.length === 0) return [];
  const unit = volumeUnitShort(s.unit, s.volumeUnit),
    factor = volumeFactor(s.unit, s.volumeUnit ?? "unit"),
    decimals = decimalsOf(s.unit);
  return [
    table(
      "Shots that move it most",
      [
        { title: "Point" },
        { title: "Code" },
        { title: `Level, ${s.unit}`, decimals },
        { title: `±, ${s.unit}`, decimals },
        { title: `Net for 0.01 ${s.unit} up, ${unit}`, decimals: VOLUME_DECIMALS[s.volumeUnit ?? "unit"] },
        { title: `Its part of ±, ${unit}`, decimals: VOLUME_DECIMALS[s.volumeUnit ?? "unit"] },
      ],
      most.map(({ row, net, sigma }) => [
        s.points.number[row]!,
        codeOf(d.coded, row),
        s.points.z[row]!,
        sigma,
        0.01 * net * factor,
        Math.abs(net * sigma) * factor,
      ]),
    ),
  ];
}

function storage(s: JobState, { storage: rows = [] }: VolumeResult): Block[] {
  const unit = volumeUnitShort(s.unit, s.volumeUnit),
    factor = volumeFactor(s.unit, s.volumeUnit ?? "unit"),
    volumes = rows.map((r): [number, number] => [r.level, r.volume * factor]);
  return [
    table(
      "Storage by level",
      [
        { title: `Level, ${s.unit}`, decimals: 2 },
        { title: `Area, ${areaUnitShort(s.unit, s.areaUnit)}`, decimals: AREA_DECIMALS[s.areaUnit ?? "unit"] },
        { title: `Volume, ${unit}`, decimals: VOLUME_DECIMALS[s.volumeUnit ?? "unit"] },
      ],
      rows.map((r) => [r.level, r.area * areaFactor(s.unit, s.areaUnit ?? "unit"), r.volume * factor]),
    ),
    { kind: "curve", title: "Storage curve", x: `Level, ${s.unit}`, y: `Volume, ${unit}`, points: volumes },
  ];
}

interface NamedWay {
  name: string;
  way: PlanWay;
}

/** Sections across a line at stations where something is moved, evenly chosen among those of its end areas. */
function waysAcross(s: JobState, axis: AlongWay, { lie, sections }: EndAreas): NamedWay[] {
  if (!("half" in lie)) return [];
  const some = sections.filter((x) => x.cut + x.fill > 0),
    chosen = Array.from({ length: Math.min(SECTIONS, some.length) }, (_, k) => {
      const at = some[Math.floor(((k + 0.5) * some.length) / Math.min(SECTIONS, some.length))]!.at,
        { e, n, azimuth } = axis.at(at)!,
        [de, dn] = [lie.half * Math.cos(azimuth), -lie.half * Math.sin(azimuth)];
      const way: PlanWay = [
        [e - de, n - dn],
        [e + de, n + dn],
      ];
      return { name: stationText(at, s.unit, settingOf(s, "stations")), way };
    });
  return chosen;
}

/** Sections at even distances across what is compared, along the azimuth of its end areas. */
function sectionWays(r: VolumeRecipe, pair: ComparedPair): NamedWay[] {
  const box = boxOf(pair);
  if (!box) return [];
  const [w, south, e, n] = box,
    { along, across } = frameOf(sectionsWanted(r, box)),
    corners = [w, e].flatMap((x) => [south, n].map((y): [number, number] => [x, y])),
    range = (of: (e: number, n: number) => number) => {
      const list = corners.map(([x, y]) => of(x, y));
      return [Math.min(...list), Math.max(...list)] as const;
    };
  const [a0, a1] = range(along),
    [c0, c1] = range(across),
    // Its own inverse: a turn about the origin with one axis mirrored.
    at = (a: number, c: number): [number, number] => {
      const [sin, cos] = [along(1, 0), along(0, 1)];
      return [a * sin + c * cos, a * cos - c * sin];
    };
  // On the very edge lie slivers, which tell nothing of the ground.
  const inset = INSET * (a1 - a0);
  return Array.from({ length: SECTIONS }, (_, k) => {
    const c = c0 + ((k + 1) / (SECTIONS + 1)) * (c1 - c0);
    return { name: String.fromCharCode(65 + k), way: [at(a0 + inset, c), at(a1 - inset, c)] };
  });
}

function sectionBlock(s: JobState, d: Derived, r: VolumeRecipe, pair: ComparedPair, { name, way }: NamedWay): Block[] {
  const [[e0, n0], [e1, n1]] = [way[0]!, way[1]!],
    length = Math.hypot(e1 - e0, n1 - n0),
    flat = (level: number): Section => ({ station: [0, length], level: [level, level] });
  const names = surfacesOf(r),
    first = { name: names[0] ?? "", section: profileOf(pair.from, way) };
  if (first.section.station.length < 2) return [];
  const second =
    typeof pair.to === "number"
      ? kindOf(r) === "storage"
        ? { name: `level ${plainNumber(r.to as number)}`, section: flat(r.to as number) }
        : { name: `level ${plainNumber(pair.to)}`, section: flat(pair.to) }
      : { name: kindOf(r) === "heap" ? "surface through the toe" : (names[1] ?? ""), section: profileOf(pair.to, way) };
  return [
    {
      kind: "section",
      title: `Section ${name}`,
      unit: s.unit,
      profiles: [first, second],
      crossed: linesCrossed(d.chains, way).flatMap(({ line, station, level }) => {
        const at = Number.isNaN(level) ? levelOn(first.section, station) : level;
        return Number.isNaN(at) ? [] : [{ name: lineName(d.lines[line]!), station, level: at }];
      }),
      length,
    },
  ];
}
