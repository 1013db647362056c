import { notFound } from "next/navigation";
import { BookBench } from "../../../../bench/book/BookBench";
import { HandoverBench } from "../../../../bench/HandoverBench";
import { IntakeBench } from "../../../../bench/intake/IntakeBench";
import { LinesBench } from "../../../../bench/lines/LinesBench";
import { PointsBench } from "../../../../bench/PointsBench";
import { SurfaceBench } from "../../../../bench/SurfaceBench";
import { SettingsBench } from "../../../../bench/settings/SettingsBench";
import { VolumesBench } from "../../../../bench/VolumesBench";

const BENCHES: Record<string, () => React.ReactNode> = {
  intake: IntakeBench,
  points: PointsBench,
  lines: LinesBench,
  surface: SurfaceBench,
  volumes: VolumesBench,
  handover: HandoverBench,
  settings: SettingsBench,
  book: BookBench,
};

export default async function PlacePage({ params }: { params: Promise<{ place: string }> }) {
  const Bench = BENCHES[(await params).place];
  if (!Bench) notFound();
  return <Bench />;
}
