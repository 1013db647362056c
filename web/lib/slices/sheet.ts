/** How the sheet looks at first, and how its look is changed. */
import type { SheetLook } from "../state/sheet";
import type { Slice } from "../state/store";

export const BLANK_SHEET = {
  layout: undefined,
  textPicked: undefined,
  paperScale: undefined,
  preview: [],
  marks: [],
  tried: undefined,
  picking: undefined,
  ring: undefined,
  mesh: undefined,
  corners: undefined,
  incoming: undefined,
  only: undefined,
  onlyRows: undefined,
  setRows: undefined,
  section: undefined,
  sectionAt: undefined,
  heights: undefined,
} satisfies Partial<SheetLook>;

export const sheetSlice: Slice<SheetLook> = (set) => ({
  ...BLANK_SHEET,
  layers: {
    points: true,
    shots: false,
    numbers: true,
    notes: true,
    lines: true,
    contours: true,
    labels: true,
    triangles: false,
    edge: true,
    map: false,
    reference: true,
  },
  surface: "",
  volume: "",
  flood: undefined,
  built: undefined,
  colorBy: "code",
  groundSeen: "plain",
  seenAs: "plan",
  light: "northwest",
  toggle: (layer, on) => set((s) => ({ layers: { ...s.layers, [layer]: on ?? !s.layers[layer] } })),
});
