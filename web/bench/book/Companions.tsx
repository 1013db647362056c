"use client";
import type { CodeEntry, Unit } from "@bramble/core";
import { numberTyped } from "@bramble/core/math/typed";
import { plainNumber } from "@bramble/core/math/round";
import { TakenText } from "../TakenText";
import { Part, type Put } from "./code-fields";

export function Companions({
  list,
  unit,
  codes,
  put,
}: {
  list: NonNullable<CodeEntry["companions"]>;
  unit: Unit;
  codes: string[];
  put: Put;
}) {
  const at = (k: number, part: Partial<(typeof list)[number]>) => list.map((c, i) => (i === k ? { ...c, ...part } : c));
  const number = (k: number, field: "right" | "up", label: string) => (
    <td key={field} className="num">
      <TakenText
        className="field num h-6 w-20"
        label={`${label} of companion ${k + 1}`}
        value={plainNumber(list[k]![field])}
        take={(text) => {
          const x = numberTyped(text);
          if (!Number.isFinite(x) || text.trim() === "" || (field === "right" && x === 0)) return false;
          put({ companions: at(k, { [field]: x }) });
        }}
      />
    </td>
  );
  return (
    <Part title="Companions" about="parallel lines that come with each of its lines">
      {list.length > 0 && (
        <table className="plain [&_td]:px-1 [&_th]:px-1">
          <thead>
            <tr>
              <th className="num">Right {unit}</th>
              <th className="num">Up {unit}</th>
              <th>Code</th>
              <th>
                <span className="sr-only">What may be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((c, k) => (
              <tr key={k}>
                {number(k, "right", "Right")}
                {number(k, "up", "Up")}
                <td>
                  <select
                    className="field h-6"
                    aria-label={`Code of companion ${k + 1}`}
                    value={c.code ?? ""}
                    onChange={(event) =>
                      put({
                        companions: at(k, { code: event.target.value || undefined }).map(({ code, ...x }) =>
                          code ? { ...x, code } : x,
                        ),
                      })
                    }
                  >
                    <option value="">its own</option>
                    {[...new Set([...codes, ...(c.code ? [c.code] : [])])].map((x) => (
                      <option key={x} value={x}>
                        {x}
                      </option>
                    ))}
                  </select>
                </td>
                <td>
                  <button
                    type="button"
                    className="button button-plain h-6"
                    aria-label={`Remove companion ${k + 1}`}
                    onClick={() => put({ companions: list.filter((_, i) => i !== k) })}
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
        onClick={() => put({ companions: [...list, { right: 0.5, up: 0 }] })}
      >
        Add a companion
      </button>
    </Part>
  );
}
