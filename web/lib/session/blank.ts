/** The open job before it is there. */
import type { JobState } from "@bramble/core";
import { emptyTable } from "@bramble/core/points/table";
import { EMPTY_VIEW } from "../view";

const EMPTY: JobState = {
  name: "",
  unit: "m",
  order: "NE",
  tolerance: { arc: 0.02, chord: 0.01, coincident: 0.001, crossing: 0.02, precision: 0.05, repeat: 0.02 },
  book: {},
  sets: [],
  surfaces: [],
  contours: [],
  volumes: [],
  differences: [],
  added: [],
  handover: [],
  accepted: [],
  states: [],
  setups: [],
  lines: [],
  moves: [],
  names: [],
  computed: [],
  intakes: [],
  delivered: [],
  points: emptyTable(),
};

export const NOTHING_OPEN = {
  status: "loading" as const,
  failure: "",
  version: 0,
  job: EMPTY,
  intakes: [],
  withdrawn: [],
  intakeLimit: Infinity,
  ledger: [],
  waiting: [],
  clashes: [],
  stuck: undefined,
  live: false,
  others: [],
  held: undefined,
  view: EMPTY_VIEW,
  derivedIn: 0,
  deriving: false,
  stage: "",
  stopped: false,
  saving: 0,
  notice: undefined,
};
