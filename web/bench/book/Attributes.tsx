"use client";
/** The attributes of a code: what stands behind it in a description, in this order. */
import type { AttributeDefinition } from "@bramble/core";
import { Choice } from "../../controls/fields/Choice";
import { EditableList } from "../../controls/fields/EditableList";
import { TakenText } from "../../controls/fields/TakenText";
import { Typed } from "../../controls/fields/Typed";
import { Tick } from "../../controls/fields/Tick";
import { Part, type Put } from "./code-fields";

/** Signs that a name cannot hold, since a description or a template uses them. */
const NOT_IN_NAMES = /[{}[\]:;=\s]/g;

export function Attributes({ list, put, leave }: { list: AttributeDefinition[]; put: Put; leave: () => void }) {
  const free = () => {
    let k = list.length + 1;
    while (list.some((a) => a.name === `value${k}`)) k++;
    return `value${k}`;
  };
  /** The picture follows while a field is typed. */
  const drawn = (k: number, part: Partial<AttributeDefinition>) =>
    put({ attributes: list.map((a, i) => (i === k ? { ...a, ...part } : a)) }, false);
  const words = (text: string) =>
    text
      .split(",")
      .map((s) => s.trim())
      .filter(Boolean);
  return (
    <Part title="Attributes" about="in the order in which values are written">
      <EditableList
        label="Attributes"
        rows={list}
        put={(attributes) => put({ attributes })}
        named={(a) => `attribute ${a.name}`}
        add={{ words: "Add an attribute", row: (): AttributeDefinition => ({ name: free(), type: "text" }) }}
        columns={[
          {
            title: "Name",
            width: "w-[30%]",
            field: (a, _, k) => (
              <Typed
                label={`Attribute ${k + 1}`}
                named={false}
                width="w-full"
                text={a.name}
                most={60}
                onType={(text) => drawn(k, { name: text.replace(NOT_IN_NAMES, "") || a.name })}
                take={leave}
              />
            ),
          },
          {
            title: "Type",
            field: (a, change) => (
              <Choice
                label={`Type of ${a.name}`}
                named={false}
                width="px-1"
                value={a.type ?? "text"}
                onChange={(type) =>
                  change({ type, choices: type === "choice" ? (a.choices ?? ["one", "two"]) : undefined })
                }
                options={[
                  ["number", "number"],
                  ["text", "text"],
                  ["choice", "choice"],
                ]}
              />
            ),
          },
          {
            title: "Unit or choices",
            width: "w-[32%]",
            field: (a, change, k) =>
              a.type === "number" ? (
                <Typed
                  label={`Unit of ${a.name}`}
                  named={false}
                  width="w-12"
                  text={a.unit ?? ""}
                  most={10}
                  onType={(unit) => drawn(k, { unit: unit || undefined })}
                  take={leave}
                />
              ) : (
                a.type === "choice" && (
                  <TakenText
                    className="field h-6 w-full"
                    label={`Choices of ${a.name}`}
                    value={(a.choices ?? []).join(", ")}
                    take={(text) => change({ choices: words(text) })}
                  />
                )
              ),
          },
          {
            title: "Required",
            is: "center",
            field: (a, change) => (
              <Tick label={`${a.name} is required`} on={a.required ?? false} set={(required) => change({ required })} />
            ),
          },
        ]}
      />
    </Part>
  );
}
