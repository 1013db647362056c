"use client";
/** What is written beside points, set by set. */
import { GROUND, type PointLabels } from "@bramble/core";
import { TEXT_HEIGHT } from "@bramble/core/drawing/layout";
import { Choice } from "../../../controls/fields/Choice";
import { EditableList, type ListColumn } from "../../../controls/fields/EditableList";
import { OptionalNumberField } from "../../../controls/fields/fields";
import { Tick } from "../../../controls/fields/Tick";
import { SetChoice } from "../../sets/SetChoice";

const USUAL_DECIMALS = 2;

const COLUMNS: readonly ListColumn<PointLabels>[] = [
  {
    title: "Points",
    field: (l, put, k) => (
      <SetChoice
        label={`Set of row ${k + 1}`}
        named={false}
        className="h-6 w-34"
        value={l.set}
        fixed={[
          ["*", "all points"],
          [GROUND, "ground points"],
        ]}
        choose={(set) => put({ set })}
      />
    ),
  },
  ...(["number", "code", "elevation"] as const).map((f): ListColumn<PointLabels> => ({
    title: f[0]!.toUpperCase() + f.slice(1),
    is: "center",
    field: (l, put, k) => <Tick label={`${f} of row ${k + 1}`} on={l[f] ?? false} set={(on) => put({ [f]: on })} />,
  })),
  {
    title: "Decimals",
    field: (l, put, k) => (
      <Choice
        label={`Decimals of row ${k + 1}`}
        named={false}
        width="px-1"
        value={l.decimals ?? USUAL_DECIMALS}
        onChange={(d) => put({ decimals: d === USUAL_DECIMALS ? undefined : d })}
        options={([0, 1, 2, 3] as const).map((d) => [d, String(d)] as const)}
      />
    ),
  },
  {
    title: "Height mm",
    field: (l, put, k) => (
      <OptionalNumberField
        label={`Height of row ${k + 1}`}
        named={false}
        value={l.height}
        placeholder={String(TEXT_HEIGHT)}
        least={0.5}
        width="w-14"
        onChange={(height) => put({ height })}
      />
    ),
  },
];

export function Labels({ list, put }: { list: PointLabels[]; put: (list: PointLabels[]) => void }) {
  return (
    <section aria-label="Beside points">
      <h2 className="heading pb-1">
        Beside points{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          the first row whose set holds a point speaks for it; notes come from the codes
        </span>
      </h2>
      <EditableList
        label="Texts beside points"
        rows={list}
        columns={COLUMNS}
        put={put}
        named={(_, k) => `row ${k + 1}`}
        moves
        add={{ words: "Add a row", row: () => ({ set: "*", number: true, elevation: true }) }}
      />
    </section>
  );
}
