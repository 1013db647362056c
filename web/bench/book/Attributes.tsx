"use client";
/** The attributes of a code: what stands behind it in a description, in this order. */
import type { AttributeDefinition } from "@bramble/core";
import { leaveOnEnter } from "../../controls/fields";
import { Part, type Put } from "./code-fields";
import { TakenText } from "../TakenText";

export function Attributes({
  list,
  put,
  draftOnly,
  leave,
}: {
  list: AttributeDefinition[];
  put: Put;
  draftOnly: (list: AttributeDefinition[]) => void;
  leave: () => void;
}) {
  const at = (k: number, part: Partial<AttributeDefinition>) =>
    list.map((a, i) =>
      i === k
        ? (Object.fromEntries(
            Object.entries({ ...a, ...part }).filter(([, v]) => v !== undefined && v !== ""),
          ) as unknown as AttributeDefinition)
        : a,
    );
  const free = () => {
    let k = list.length + 1;
    while (list.some((a) => a.name === `value${k}`)) k++;
    return `value${k}`;
  };
  return (
    <Part title="Attributes" about="in the order in which values are written">
      {list.length > 0 && (
        <table className="plain [&_td]:px-0.5 [&_th]:px-1">
          <thead>
            <tr>
              <th>Name</th>
              <th>Type</th>
              <th>Unit</th>
              <th>Required</th>
              <th>Choices</th>
              <th>
                <span className="sr-only">What may be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((a, k) => (
              <tr key={k}>
                <td>
                  <input
                    className="field h-6 w-full"
                    aria-label={`Attribute ${k + 1}`}
                    value={a.name}
                    maxLength={60}
                    onChange={(event) =>
                      draftOnly(at(k, { name: event.target.value.replace(/[{}[\]:;=\s]/g, "") || a.name }))
                    }
                    onBlur={leave}
                    onKeyDown={leaveOnEnter}
                  />
                </td>
                <td>
                  <select
                    className="field h-6 px-1"
                    aria-label={`Type of ${a.name}`}
                    value={a.type ?? "text"}
                    onChange={(event) =>
                      put({
                        attributes: at(k, {
                          type: event.target.value as "text",
                          choices: event.target.value === "choice" ? (a.choices ?? ["one", "two"]) : undefined,
                        }),
                      })
                    }
                  >
                    <option value="number">number</option>
                    <option value="text">text</option>
                    <option value="choice">choice</option>
                  </select>
                </td>
                <td>
                  {a.type === "number" && (
                    <input
                      className="field h-6 w-12"
                      aria-label={`Unit of ${a.name}`}
                      value={a.unit ?? ""}
                      maxLength={10}
                      onChange={(event) => draftOnly(at(k, { unit: event.target.value }))}
                      onBlur={leave}
                    />
                  )}
                </td>
                <td className="text-center">
                  <input
                    type="checkbox"
                    aria-label={`${a.name} is required`}
                    checked={a.required ?? false}
                    onChange={(event) => put({ attributes: at(k, { required: event.target.checked || undefined }) })}
                  />
                </td>
                <td>
                  {a.type === "choice" && (
                    <TakenText
                      className="field h-6 w-full"
                      label={`Choices of ${a.name}`}
                      value={(a.choices ?? []).join(", ")}
                      take={(text) =>
                        put({
                          attributes: at(k, {
                            choices: text
                              .split(",")
                              .map((s) => s.trim())
                              .filter(Boolean),
                          }),
                        })
                      }
                    />
                  )}
                </td>
                <td>
                  <button
                    type="button"
                    className="button button-plain h-6"
                    aria-label={`Remove attribute ${a.name}`}
                    onClick={() => put({ attributes: list.filter((_, i) => i !== k) })}
                  >
                    Remove
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button
        type="button"
        className="button mt-1 h-6"
        onClick={() => put({ attributes: [...list, { name: free(), type: "text" }] })}
      >
        Add an attribute
      </button>
    </Part>
  );
}
