/** What stands on the bench in each place of a job. */
import type { ComponentType } from "react";
import { BookBench } from "./book/BookBench";
import { HandoverBench } from "./handover/HandoverBench";
import { IntakeBench } from "./intake/IntakeBench";
import { LinesBench } from "./lines/LinesBench";
import { PointsBench } from "./PointsBench";
import { SettingsBench } from "./settings/SettingsBench";
import { SurfaceBench } from "./surface/SurfaceBench";
import { VolumesBench } from "./volumes/VolumesBench";

export const BENCHES: Readonly<Record<string, ComponentType>> = {
  intake: IntakeBench,
  points: PointsBench,
  lines: LinesBench,
  surface: SurfaceBench,
  volumes: VolumesBench,
  handover: HandoverBench,
  settings: SettingsBench,
  book: BookBench,
};
