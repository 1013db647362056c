/** The office's own code book for general topographic work, offered to every new job. */
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
const number = (name: string, unit = "m", required = false) => ({
  name,
  type: "number" as const,
  ...(unit ? { unit } : {}),
  ...(required ? { required } : {}),
});
const word = (name: string) => ({ name, type: "text" as const });
const choice = (name: string, ...choices: string[]) => ({ name, type: "choice" as const, choices });

const crown = (symbol: string, name: string, code: string) =>
  point(code, name, symbol, GREEN, {
    size: { attribute: "spread" },
    attributes: [number("spread", "m", true), number("height"), word("kind")],
    label: "{kind}[ {height:1} m]",
  });

export const GENERAL_BOOK: CodeBook = {
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
        label: "BH {name}[, {depth:1} m]",
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
      line("CULVERT", "Culvert", "double-dash", WATER, {
        ground: false,
        attributes: [number("diameter")],
        label: "⌀{diameter:2}",
      }),
      line("WEIR", "Weir or sill", "bars", WATER, FIXED),
      point("WATERLEVEL", "Water level", "water-level", WATER, { ground: false, label: "{elevation:2}" }),
      point("SPRING", "Spring", "spring", WATER),
      point("WELL", "Well", "well", WATER, { attributes: [number("depth")], label: "well[ {depth:1} m]" }),
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
        maxSegment: 30,
        companions: [{ right: 0.15, up: 0.12, code: "KERBTOP" }],
      }),
      line("KERBTOP", "Kerb, top", "fine", "#4d4740", { breakline: "fixed", ground: false }),
      line("PAVING", "Paving edge", "fine", "#6b6259", { breakline: "draped" }),
      line("MARKING", "Road marking", "fine", "#8b8378", { breakline: "none" }),
      line("RAIL", "Rail of a track", "bars", IRON, { ground: false }),
      area("STEPS", "Steps", "fine", BUILT, {
        breakline: "fixed",
        attributes: [number("steps", "")],
        label: "[{steps:0} steps]",
      }),
      area("RAMP", "Ramp", "fine", ROAD, { breakline: "fixed", label: "ramp" }),
    ),
    ...group(
      "Built",
      area("HOUSE", "House", "heavy", BUILT, {
        ground: false,
        attributes: [word("use"), number("storeys", "")],
        label: "{use}[ {storeys:0}]",
        labelAt: { place: "centre", height: 2.2 },
      }),
      area("HUT", "Hut or building", "solid", BUILT, { ground: false, attributes: [word("use")], label: "[{use}]" }),
      area("SLAB", "Slab", "solid", BUILT, { ground: true, attributes: [word("use")], label: "[{use}]" }),
      area("CANOPY", "Canopy", "long-dash", BUILT, { ground: false }),
      area("TANK", "Tank", "double", BUILT, {
        ground: false,
        attributes: [number("volume", "m³")],
        label: "tank[ {volume:0} m³]",
      }),
      line("RETAIN", "Retaining wall, its top edge", "stones", BUILT, {
        breakline: "fixed",
        companions: [{ right: 0.3, up: 0 }],
      }),
      point("POST", "Post", "post", STONE),
      point("BOLLARD", "Bollard", "bollard", STONE),
      point("SIGN", "Sign", "sign", STONE, { attributes: [word("text")], label: "[{text}]" }),
      point("FLAGPOLE", "Flagpole", "marker", STONE, { attributes: [number("height")], label: "[{height:1} m]" }),
      point("BENCH", "Bench", "bench", STONE, {
        attributes: [number("direction", "°")],
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
        labelAt: { every: 80 },
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
      point("STUMP", "Stump", "stump", GREEN, { size: { attribute: "diameter" }, attributes: [number("diameter")] }),
      area("WOOD", "Wood", "leaves", GREEN, { breakline: "none", attributes: [word("kind")], label: "{kind} wood" }),
      area("BED", "Planted bed", "dot", GREEN, { breakline: "draped", label: "bed" }),
      line("LAWN", "Edge of grass", "fine", GREEN, { breakline: "draped" }),
    ),
    ...group(
      "Services",
      point("COVER", "Cover", "cover", IRON, {
        size: { attribute: "diameter" },
        attributes: [number("diameter"), number("depth")],
        label: "⌀{diameter:2}[ inv −{depth:2}]",
      }),
      point("COVERBOX", "Square cover", "cover-square", IRON, { attributes: [word("kind")], label: "[{kind}]" }),
      point("GULLY", "Gully", "gully", IRON, { ground: true }),
      point("VALVE", "Valve", "valve", WATER, { attributes: [choice("kind", "water", "gas")], label: "[{kind}]" }),
      point("HYDRANT", "Hydrant", "hydrant", SAFETY),
      point("TAP", "Tap", "tap", WATER),
      point("PUMP", "Pump", "pump", WATER),
      point("LAMP", "Lamp", "lamp", CABLE, { attributes: [number("height")], label: "[{height:1} m]" }),
      point("POLE", "Pole", "pole", CABLE, { attributes: [number("height")], label: "[{height:1} m]" }),
      point("MAST", "Mast", "mast", CABLE, { attributes: [number("height")], label: "mast[ {height:1} m]" }),
      point("CABINET", "Cabinet", "cabinet", CABLE, {
        attributes: [number("direction", "°")],
        rotation: { attribute: "direction" },
      }),
      point("MARKERPOST", "Marker of a service", "marker", CABLE, { attributes: [word("kind")], label: "[{kind}]" }),
      line("DRAIN", "Drain, invert", "long-dash", WATER, {
        ground: false,
        attributes: [number("diameter")],
        label: "[⌀{diameter:2}]",
      }),
      line("PIPE", "Pipe", "dash", IRON, {
        ground: false,
        attributes: [number("diameter"), word("kind")],
        label: "[{kind} ][⌀{diameter:2}]",
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
