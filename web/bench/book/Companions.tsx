"use client";
import type { CodeEntry, Unit } from "@bramble/core";
import { Choice } from "../../controls/fields/Choice";
import { EditableList, type ListColumn } from "../../controls/fields/EditableList";
import { numberReading } from "../../controls/fields/reading";
import { Taken } from "../../controls/fields/Taken";
import { Part, type Put } from "./code-fields";

type Companion = NonNullable<CodeEntry["companions"]>[number];

const RIGHT = numberReading((x) => x !== 0, "A number other than 0: left is below it."),
  UP = numberReading(() => true, "A number, such as 0.12.");

export function Companions({ list, unit, codes, put }: { list: Companion[]; unit: Unit; codes: string[]; put: Put }) {
  const length = (of: "right" | "up", title: string): ListColumn<Companion> => ({
    title: `${title} ${unit}`,
    is: "num",
    field: (c, change, k) => (
      <Taken
        label={`${title} of companion ${k + 1}`}
        named={false}
        back
        width="num w-20"
        reading={of === "right" ? RIGHT : UP}
        value={c[of]}
        onChange={(x) => change({ [of]: x })}
      />
    ),
  });
  return (
    <Part title="Companions" about="parallel lines that come with each of its lines">
      <EditableList
        label="Companions"
        rows={list}
        put={(companions) => put({ companions })}
        named={(_, k) => `companion ${k + 1}`}
        add={{ words: "Add a companion", row: (): Companion => ({ right: 0.5, up: 0 }) }}
        columns={[
          length("right", "Right"),
          length("up", "Up"),
          {
            title: "Code",
            field: (c, change, k) => (
              <Choice
                label={`Code of companion ${k + 1}`}
                named={false}
                value={c.code ?? ""}
                onChange={(code) => change({ code })}
                options={[
                  ["", "its own"],
                  ...[...new Set([...codes, ...(c.code ? [c.code] : [])])].map((x) => [x, x] as const),
                ]}
              />
            ),
          },
        ]}
      />
    </Part>
  );
}
