/** The office's own code book for general topographic work, in the unit of each new job: in round figures of it. */
import type { Unit } from "../math/units";
import type { CodeBook, CodeEntry } from "./model";

const EARTH = "#8a5a2b",
  /** Of another hue than earth, so that toe and top differ on dark paper and from afar too. */
  OCHRE = "#a3841c",
  GREEN = "#3f6b3a",
  STONE = "#5c5650",
  ROAD = "#75604a",
  WATER = "#2f6f8f",
  BUILT = "#7a2f38",
  IRON = "#44506b",
  SAFETY = "#a3471f",
  CABLE = "#6a4b86";

type More = Partial<CodeEntry>;

/** Codes of one group; each has a layer of its own. */
function group(name: string, ...codes: ((group: string) => CodeEntry)[]): CodeEntry[] {
  return codes.map((c) => c(name));
}

const point =
  (code: string, name: string, symbol: string, color: string, more: More = {}) =>
  (group: string): CodeEntry => ({
    code,
    name,
    kind: "point",
    group,
    layer: `${group.toUpperCase()}-${code}`,
    color,
    symbol,
    ...more,
  });
const line =
  (code: string, name: string, style: string, color: string, more: More = {}) =>
  (group: string): CodeEntry => ({
    code,
    name,
    kind: "line",
    group,
    layer: `${group.toUpperCase()}-${code}`,
    color,
    style,
    ...more,
  });
const area = (code: string, name: string, style: string, color: string, more: More = {}) =>
  line(code, name, style, color, { kind: "area", ...more });

const FIXED: More = { breakline: "fixed" };
const numberIn = (name: string, unit: string, required = false) => ({
  name,
  type: "number" as const,
  ...(unit ? { unit } : {}),
  ...(required ? { required } : {}),
});
const word = (name: string) => ({ name, type: "text" as const });
const choice = (name: string, ...choices: string[]) => ({ name, type: "choice" as const, choices });

/** What measures are like in a unit. */
interface Measures {
  /** After a length in a note. */
  length: string;
  /** Note of the diameter of a pipe, a cover or a stump. */
  diameter: string;
  volume: string;
  kerb: { right: number; up: number; longest: number };
  wall: number;
  /** Distance of the notes along a fence. */
  notes: number;
}
const METRIC: Measures = {
    length: "m",
    diameter: "⌀{diameter:2}",
    volume: "m³",
    kerb: { right: 0.15, up: 0.12, longest: 30 },
    wall: 0.3,
    notes: 80,
  },
  FEET: Measures = {
    length: "ft",
    diameter: "⌀{diameter:0} in",
    volume: "ft³",
    kerb: { right: 0.5, up: 0.5, longest: 100 },
    wall: 1,
    notes: 250,
  };

/** The book in a unit: metric, or in feet with diameters in inches. */
export function generalBook(unit: Unit): CodeBook {
  const { length, diameter, volume, kerb, wall, notes } = unit === "m" ? METRIC : FEET,
    number = (name: string, required = false) => numberIn(name, unit, required),
    across = () => numberIn("diameter", unit === "m" ? "m" : "in"),
    high = `{height:1} ${length}`;
  const crown = (symbol: string, name: string, code: string) =>
    point(code, name, symbol, GREEN, {
      size: { attribute: "spread" },
      attributes: [number("spread", true), number("height"), word("kind")],
      label: `{kind}[ ${high}]`,
    });
  return {
    aliases: [
      { from: "HDG", to: "HEDGE" },
      { from: "BUSH*", to: "SHRUB" },
      { from: "MANHOLE", to: "COVER" },
      { from: "BUILDING", to: "HOUSE" },
      { from: "ROADEDGE", to: "ROAD" },
    ],
    codes: [
      ...group(
        "Control",
        point("MARK", "Survey mark", "triangle", IRON),
        point("STATION", "Instrument station", "station", IRON, { label: "{number}" }),
        point("BENCHMARK", "Height mark", "benchmark", IRON, { label: "{elevation:3}" }),
        point("NAIL", "Nail or peg", "peg", IRON),
      ),
      ...group(
        "Ground",
        point("SPOT", "Spot level", "spot", EARTH),
        line("TOP", "Top of bank or face", "solid", EARTH, FIXED),
        line("TOE", "Toe of bank or face", "dash", OCHRE, FIXED),
        line("CREST", "Crest of the excavation", "heavy", "#6e4420", FIXED),
        line("RIDGE", "Ridge, change of slope", "long-dash", EARTH, FIXED),
        line("BREAK", "Change of slope", "dot", EARTH, FIXED),
        line("DITCH", "Ditch, bottom", "dash", WATER, FIXED),
        line("HEAPTOE", "Heap, toe", "dash", OCHRE, FIXED),
        line("HEAPTOP", "Heap, top", "solid", EARTH, FIXED),
        line("STACKTOE", "Stone stack, foot", "dash", STONE, FIXED),
        line("STACKTOP", "Stone stack, top", "solid", STONE, FIXED),
        line("SLOPE", "Slope, its upper edge going with the fall on the right", "slope", EARTH, FIXED),
        area("ROCK", "Rock outcrop", "teeth", STONE, { breakline: "draped", label: "rock" }),
        point("BOULDER", "Boulder", "boulder", STONE, {
          ground: false,
          size: { attribute: "diameter" },
          attributes: [number("diameter")],
        }),
      ),
      ...group(
        "Ground works",
        point("COLLAR", "Drill collar", "drill-collar", IRON, {
          attributes: [number("depth")],
          label: "{number}[ / {depth:1}]",
        }),
        point("BOREHOLE", "Borehole", "borehole", IRON, {
          attributes: [word("name"), number("depth")],
          label: `BH {name}[, {depth:1} ${length}]`,
        }),
        point("TRIALPIT", "Trial pit", "trial-pit", IRON, { attributes: [word("name")], label: "TP {name}" }),
        line("TRENCH", "Trench edge", "fine", SAFETY, FIXED),
      ),
      ...group(
        "Water",
        line("SUMPRIM", "Sump, rim", "solid", WATER, FIXED),
        line("SUMPBED", "Sump, bed", "dash", WATER, FIXED),
        line("WATER", "Water's edge", "solid", WATER, FIXED),
        line("STREAM", "Stream, centre, going downstream", "flow", WATER, FIXED),
        area("POND", "Pond", "ripples", WATER, { ground: true, breakline: "fixed", label: "pond" }),
        line("CULVERT", "Culvert", "double-dash", WATER, { ground: false, attributes: [across()], label: diameter }),
        line("WEIR", "Weir or sill", "bars", WATER, FIXED),
        point("WATERLEVEL", "Water level", "water-level", WATER, { ground: false, label: "{elevation:2}" }),
        point("SPRING", "Spring", "spring", WATER),
        point("WELL", "Well", "well", WATER, { attributes: [number("depth")], label: `well[ {depth:1} ${length}]` }),
        area("REEDS", "Reed bed", "leaves", WATER, { breakline: "draped", label: "reeds" }),
      ),
      ...group(
        "Road",
        line("ROAD", "Road edge", "solid", ROAD, FIXED),
        line("TRACK", "Track edge", "dash", ROAD, FIXED),
        line("PATH", "Path edge", "dot", ROAD, { breakline: "draped" }),
        line("AXIS", "Road centre", "dash-dot", ROAD, FIXED),
        line("KERB", "Kerb, face", "solid", "#4d4740", {
          breakline: "fixed",
          maxSegment: kerb.longest,
          companions: [{ right: kerb.right, up: kerb.up, code: "KERBTOP" }],
        }),
        line("KERBTOP", "Kerb, top", "fine", "#4d4740", { breakline: "fixed", ground: false }),
        line("PAVING", "Paving edge", "fine", "#6b6259", { breakline: "draped" }),
        line("MARKING", "Road marking", "fine", "#8b8378", { breakline: "none" }),
        line("RAIL", "Rail of a track", "bars", IRON, { ground: false }),
        area("STEPS", "Steps", "fine", BUILT, {
          breakline: "fixed",
          attributes: [numberIn("steps", "")],
          label: "[{steps:0} steps]",
        }),
        area("RAMP", "Ramp", "fine", ROAD, { breakline: "fixed", label: "ramp" }),
      ),
      ...group(
        "Built",
        area("HOUSE", "House", "heavy", BUILT, {
          ground: false,
          attributes: [word("use"), numberIn("storeys", "")],
          label: "{use}[ {storeys:0}]",
          labelAt: { place: "centre", height: 2.2 },
        }),
        area("HUT", "Hut or building", "solid", BUILT, { ground: false, attributes: [word("use")], label: "[{use}]" }),
        area("SLAB", "Slab", "solid", BUILT, { ground: true, attributes: [word("use")], label: "[{use}]" }),
        area("CANOPY", "Canopy", "long-dash", BUILT, { ground: false }),
        area("TANK", "Tank", "double", BUILT, {
          ground: false,
          attributes: [numberIn("volume", volume)],
          label: `tank[ {volume:0} ${volume}]`,
        }),
        line("RETAIN", "Retaining wall, its top edge", "stones", BUILT, {
          breakline: "fixed",
          companions: [{ right: wall, up: 0 }],
        }),
        point("POST", "Post", "post", STONE),
        point("BOLLARD", "Bollard", "bollard", STONE),
        point("SIGN", "Sign", "sign", STONE, { attributes: [word("text")], label: "[{text}]" }),
        point("FLAGPOLE", "Flagpole", "marker", STONE, { attributes: [number("height")], label: `[${high}]` }),
        point("BENCH", "Bench", "bench", STONE, {
          attributes: [numberIn("direction", "°")],
          rotation: { attribute: "direction" },
        }),
        point("BIN", "Bin", "bin", STONE),
      ),
      ...group(
        "Boundary",
        line("WALL", "Dry wall", "stones", STONE),
        line("HEDGE", "Hedge, centre", "leaves", GREEN, { attributes: [number("height")], label: "[h {height:1}]" }),
        line("GATE", "Gate", "bars", BUILT),
        line("FENCE", "Fence", "posts", IRON, {
          attributes: [choice("kind", "wire", "timber", "mesh")],
          label: "[{kind}]",
          labelAt: { every: notes },
        }),
        line("RAILING", "Railing", "crosses", IRON, { ground: false }),
        line("BARRIER", "Safety barrier", "ticks", SAFETY, { ground: false }),
        line("BORDER", "Property border", "dash-dot-dot", BUILT, { breakline: "none" }),
        point("CORNERSTONE", "Boundary stone", "boundary-stone", BUILT, { label: "{number}" }),
        area("LIMIT", "Limit of the survey", "long-dash", SAFETY, { ground: false, breakline: "none" }),
      ),
      ...group(
        "Vegetation",
        crown("tree", "Tree", "TREE"),
        crown("conifer", "Conifer", "CONIFER"),
        point("SHRUB", "Shrub", "shrub", GREEN),
        point("SAPLING", "Sapling", "sapling", GREEN),
        point("STUMP", "Stump", "stump", GREEN, { size: { attribute: "diameter" }, attributes: [across()] }),
        area("WOOD", "Wood", "leaves", GREEN, { breakline: "none", attributes: [word("kind")], label: "{kind} wood" }),
        area("BED", "Planted bed", "dot", GREEN, { breakline: "draped", label: "bed" }),
        line("LAWN", "Edge of grass", "fine", GREEN, { breakline: "draped" }),
      ),
      ...group(
        "Services",
        point("COVER", "Cover", "cover", IRON, {
          size: { attribute: "diameter" },
          attributes: [across(), number("depth")],
          label: `${diameter}[ inv −{depth:2}]`,
        }),
        point("COVERBOX", "Square cover", "cover-square", IRON, { attributes: [word("kind")], label: "[{kind}]" }),
        point("GULLY", "Gully", "gully", IRON, { ground: true }),
        point("VALVE", "Valve", "valve", WATER, { attributes: [choice("kind", "water", "gas")], label: "[{kind}]" }),
        point("HYDRANT", "Hydrant", "hydrant", SAFETY),
        point("TAP", "Tap", "tap", WATER),
        point("PUMP", "Pump", "pump", WATER),
        point("LAMP", "Lamp", "lamp", CABLE, { attributes: [number("height")], label: `[${high}]` }),
        point("POLE", "Pole", "pole", CABLE, { attributes: [number("height")], label: `[${high}]` }),
        point("MAST", "Mast", "mast", CABLE, { attributes: [number("height")], label: `mast[ ${high}]` }),
        point("CABINET", "Cabinet", "cabinet", CABLE, {
          attributes: [numberIn("direction", "°")],
          rotation: { attribute: "direction" },
        }),
        point("MARKERPOST", "Marker of a service", "marker", CABLE, { attributes: [word("kind")], label: "[{kind}]" }),
        line("DRAIN", "Drain, invert", "long-dash", WATER, {
          ground: false,
          attributes: [across()],
          label: `[${diameter}]`,
        }),
        line("PIPE", "Pipe", "dash", IRON, {
          ground: false,
          attributes: [across(), word("kind")],
          label: `[{kind} ][${diameter}]`,
        }),
        line("CABLE", "Cable below ground", "beads", CABLE, {
          ground: false,
          attributes: [word("kind")],
          label: "[{kind}]",
        }),
        line("OVERHEAD", "Cable overhead", "spans", CABLE, {
          ground: false,
          attributes: [number("height")],
          label: "[h {height:1}]",
        }),
      ),
    ],
  };
}

/** In metres. */
export const GENERAL_BOOK = generalBook("m");
