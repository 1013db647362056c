"use client";
/** What is asked for each way of making line work by geometry. */
import { useEffect, useMemo, useState } from "react";
import { filletCorner, lineBeside, mirrorLine, type BesideHow, pointsAlong } from "@bramble/core/job/edit/geometry";
import { orderedNumbers } from "@bramble/core/points/numbers";
import { rowOf } from "@bramble/core/points/table";
import { numberIndex } from "@bramble/core/points/index";
import type { AtStation, Every } from "@bramble/core/volumes/station-table";
import { Choice } from "../../../controls/fields/Choice";
import { lengthReading, numberReading } from "../../../controls/fields/reading";
import { Typed } from "../../../controls/fields/Typed";
import { useDraft } from "../../../controls/fields/use-draft";
import { useParts } from "../../../lib/store";
import type { LineShown } from "../../../lib/view";
import { drawing } from "../LineForms";
import { GeometryForm, type Asked } from "./GeometryForm";
import { PointsField } from "./PointsField";

interface FormProps {
  line: LineShown;
  leave: () => void;
}

/** The row of a point by its number, where there is one. */
function useRow(number: string): number | undefined {
  const { job } = useParts("job");
  return numberIndex(job.points).get(number.trim());
}

/** The number of the point that is selected alone, among those of a line where it matters. */
function useSelectedNumber(among?: readonly number[]): string {
  const { job, points } = useParts("job", "points"),
    [id, ...more] = points;
  if (id === undefined || more.length) return "";
  const at = rowOf(job.points, id);
  return at >= 0 && (!among || among.includes(at)) ? job.points.number[at]! : "";
}

/** A corner of the line rounded by an arc. */
export function Fillet({ line, leave }: FormProps) {
  const { job } = useParts("job"),
    selected = useSelectedNumber(line.shots),
    [corner, setCorner] = useState(selected),
    radius = useDraft(lengthReading(job.unit)),
    row = useRow(corner),
    k = row === undefined ? -1 : line.shots.indexOf(row),
    { value } = radius;
  const edit = useMemo(
    (): Asked => (k < 0 || value === undefined ? undefined : (now, ids) => filletCorner(now, line, k, value, ids)),
    [line, k, value],
  );
  return (
    <GeometryForm label="Round a corner" action="Round it" line={line} edit={edit} done={leave}>
      <PointsField
        label="Corner at its shot"
        text={corner}
        set={setCorner}
        wrong={corner.trim() !== "" && k < 0}
        hint="Click the corner; Esc ends"
      />
      <Typed
        label={`Radius, ${job.unit}`}
        width="num w-24"
        {...radius.typed}
        wrong={radius.typed.text !== "" && !radius.value}
      />
    </GeometryForm>
  );
}

/** A line square to it from a point, or parallel to it through one. */
export function Beside({ line, leave }: FormProps) {
  const { job } = useParts("job"),
    [how, setHow] = useState<BesideHow>("square"),
    [point, setPoint] = useState(""),
    [code, setCode] = useState(line.code),
    row = useRow(point);
  const edit = useMemo((): Asked => {
    if (row === undefined || code === "") return undefined;
    return (now, ids) => lineBeside(now, line, how, row, code, ids);
  }, [line, row, how, code]);
  return (
    <GeometryForm label="Square or parallel" action="Draw it" line={line} edit={edit} done={leave}>
      <Choice
        label="A line"
        value={how}
        onChange={setHow}
        options={[
          ["square", "square to it"],
          ["parallel", "parallel to it"],
        ]}
      />
      <PointsField
        label={how === "square" ? "From point" : "Through point"}
        text={point}
        set={setPoint}
        wrong={point.trim() !== "" && row === undefined}
        hint="Click the point; Esc ends"
      />
      <Choice
        label="As"
        value={code}
        onChange={setCode}
        options={[...new Set([line.code, ...drawing(job.book.codes)])].map((c) => [c, c] as const)}
      />
    </GeometryForm>
  );
}

/** The line once more on the other side of a straight one. */
export function Mirror({ line, leave }: FormProps) {
  const { job } = useParts("job"),
    [axis, setAxis] = useState(""),
    index = numberIndex(job.points),
    rows = orderedNumbers(axis).map((n) => index.get(n)),
    [a, b] = rows,
    isRead = rows.length === 2 && a !== undefined && b !== undefined;
  const edit = useMemo(
    (): Asked => (isRead ? (now, ids) => mirrorLine(now, line, [a, b], ids) : undefined),
    [line, a, b, isRead],
  );
  return (
    <GeometryForm label="Mirror the line" action="Mirror it" line={line} edit={edit} done={leave}>
      <PointsField
        label="At the line through two points"
        text={axis}
        set={setAxis}
        wrong={rows.length > 1 && !isRead}
        count={2}
        hint="Click two points of the axis; Esc ends"
      />
    </GeometryForm>
  );
}

/** Points along the line, in equal parts or every so often. */
export function PointsAlong({ line, leave }: FormProps) {
  const { job, ask } = useParts("job", "ask"),
    [by, setBy] = useState<"parts" | "length">("parts"),
    parts = useDraft(numberReading((x) => Number.isInteger(x) && x >= 2 && x <= 5000, "A whole number, 2 to 5000.")),
    length = useDraft(lengthReading(job.unit, { positive: true })),
    [description, setDescription] = useState(""),
    { value } = by === "parts" ? parts : length,
    { typed } = by === "parts" ? parts : length,
    [found, setFound] = useState<{ of: string; at: AtStation[] }>();
  const every: Every | undefined =
      value === undefined ? undefined : by === "parts" ? { parts: value } : { length: value },
    of = JSON.stringify([line.key, every, line.length]);
  useEffect(() => {
    if (!every) return;
    let gone = false;
    void ask({ what: "along", line: line.key, every }).then((at) => gone || setFound({ of, at }));
    return () => void (gone = true);
    // What is asked stands in `of`.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [of, ask]);
  const at = found?.of === of ? found.at : undefined,
    edit = useMemo(
      (): Asked => (at ? (now, ids) => pointsAlong(now, line, at, description.trim(), ids) : undefined),
      [line, at, description],
    );
  return (
    <GeometryForm label="Points along it" action="Make them" line={line} edit={edit} done={leave}>
      <Choice
        label="Points"
        value={by}
        onChange={setBy}
        options={[
          ["parts", "in equal parts"],
          ["length", "every so often"],
        ]}
      />
      <Typed
        label={by === "parts" ? "Parts" : `Every, ${job.unit}`}
        width="num w-24"
        {...typed}
        wrong={typed.text !== "" && value === undefined}
        autoFocus
      />
      <Typed label="Description" width="w-32" text={description} onType={setDescription} most={400} />
      {at && at.length > 0 && <span className="leading-7 text-soft">{at.length} points</span>}
    </GeometryForm>
  );
}
