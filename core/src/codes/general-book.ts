/** The office's own code book for general topographic work, offered to every new job. */
import type { CodeBook, CodeEntry } from "../job/model";

const point = (code: string, name: string, group: string, color: string, more: Partial<CodeEntry> = {}): CodeEntry => ({
  code, name, kind: "point", group, layer: `${group.toUpperCase()}-${code}`, color, ...more,
});
const line = (code: string, name: string, group: string, color: string, more: Partial<CodeEntry> = {}): CodeEntry => ({
  ...point(code, name, group, color, more), kind: more.kind ?? "line",
});

const EARTH = "#8a5a2b", GREEN = "#3f6b3a", STONE = "#5c5650", ROAD = "#75604a", WATER = "#2f6f8f", BUILT = "#7a2f38", IRON = "#44506b";

const tree: CodeEntry["attributes"] = [
  { name: "spread", type: "number", unit: "m", required: true }, { name: "height", type: "number", unit: "m" }, { name: "kind", type: "text" },
];

export const GENERAL_BOOK: CodeBook = {
  aliases: [{ from: "HDG", to: "HEDGE" }, { from: "BUSH*", to: "SHRUB" }],
  codes: [
    point("SPOT", "Spot level", "Ground", EARTH),
    point("MARK", "Survey mark", "Control", IRON, { symbol: "triangle" }),
    line("TOP", "Top of bank or face", "Ground", EARTH, { breakline: "fixed" }),
    line("TOE", "Toe of bank or face", "Ground", "#b07d45", { breakline: "fixed", style: "dash" }),
    line("CREST", "Crest of the excavation", "Ground", "#6e4420", { breakline: "fixed" }),
    line("DITCH", "Ditch, bottom", "Ground", WATER, { breakline: "fixed", style: "dash" }),
    line("HEAPTOE", "Heap, toe", "Ground", "#b07d45", { breakline: "fixed", style: "dash" }),
    line("HEAPTOP", "Heap, top", "Ground", EARTH, { breakline: "fixed" }),
    line("STACKTOE", "Stone stack, foot", "Ground", STONE, { breakline: "fixed", style: "dash" }),
    line("STACKTOP", "Stone stack, top", "Ground", STONE, { breakline: "fixed" }),
    line("SUMPRIM", "Sump, rim", "Water", WATER, { breakline: "fixed" }),
    line("SUMPBED", "Sump, bed", "Water", WATER, { breakline: "fixed", style: "dash" }),
    line("WATER", "Water's edge", "Water", WATER, { breakline: "fixed" }),
    point("COLLAR", "Drill collar", "Ground", IRON, { symbol: "circle", attributes: [{ name: "depth", type: "number", unit: "m" }] }),
    line("ROAD", "Road edge", "Road", ROAD, { breakline: "fixed" }),
    line("TRACK", "Track edge", "Road", ROAD, { breakline: "fixed", style: "dash" }),
    line("KERB", "Kerb, face", "Road", "#4d4740", { breakline: "fixed", companions: [{ right: 0.15, up: 0.12, code: "KERBTOP" }] }),
    line("KERBTOP", "Kerb, top", "Road", "#4d4740", { breakline: "fixed", ground: false }),
    line("PAVING", "Paving edge", "Road", "#6b6259", { breakline: "draped" }),
    line("SLAB", "Slab", "Built", BUILT, { kind: "area", ground: true }),
    line("HUT", "Hut or building", "Built", BUILT, { kind: "area", ground: false }),
    line("WALL", "Dry wall", "Boundary", STONE, { style: "double" }),
    line("HEDGE", "Hedge, centre", "Boundary", GREEN, { style: "dash-dot" }),
    line("GATE", "Gate", "Boundary", BUILT),
    line("FENCE", "Fence", "Boundary", IRON, { style: "dash-dot" }),
    point("TREE", "Tree", "Vegetation", GREEN, { ground: true, symbol: "circle", size: { attribute: "spread" }, attributes: tree, label: "{kind} {height:1}" }),
    point("SHRUB", "Shrub", "Vegetation", GREEN, { symbol: "circle" }),
    point("COVER", "Cover", "Services", IRON, { ground: true, symbol: "square", attributes: [{ name: "diameter", type: "number", unit: "m" }] }),
    point("LAMP", "Lamp", "Services", IRON, { symbol: "circle" }),
    point("POST", "Post", "Built", STONE, { symbol: "square" }),
  ],
};
