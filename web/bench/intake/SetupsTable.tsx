"use client";
/**
 * Setups of raw observations: where they stood, what they sighted, how well it closes. Editable once they are in the
 * job.
 */
import { directionText, type AngleStyle } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import type { SetupReport } from "@bramble/core/points/setup-report";
import { misclosureDecimals } from "@bramble/core/math/units";
import type { Unit } from "@bramble/core";
import { decimalsOf } from "../../lib/units-shown";

const SECOND = Math.PI / 648_000;

/** A small angle in seconds, with its sign. */
export function secondsText(radians: number): string {
  return Number.isNaN(radians) ? "–" : `${formatFixed(radians / SECOND, 1).replace("-", "−")}″`;
}

export function SetupsTable({
  setups,
  unit,
  angle,
  selected,
  onSelect,
}: {
  setups: readonly SetupReport[];
  unit: Unit;
  angle: AngleStyle;
  selected?: string;
  onSelect?: (id: string) => void;
}) {
  const text = (x: number, decimals: number) => (Number.isNaN(x) ? "–" : formatFixed(x, decimals).replace("-", "−")),
    length = (x: number) => text(x, decimalsOf(unit)),
    off = (x: number) => text(x, misclosureDecimals(unit));
  return (
    <div className="overflow-x-auto">
      <table className="plain mt-1 [&_td]:px-1.5 [&_th]:px-1.5" aria-label="Setups">
        <thead>
          <tr>
            <th>Setup</th>
            <th>Station</th>
            <th className="num" title="Instrument height above the mark">
              Height {unit}
            </th>
            <th>Backsight</th>
            <th className="num">Orientation</th>
            <th className="num" title="Observed less known plan distance to the backsight">
              Distance off
            </th>
            <th className="num" title="Observed less known level of the backsight">
              Level off
            </th>
            <th className="num">Shots</th>
            <th className="num">Outside</th>
          </tr>
        </thead>
        <tbody>
          {setups.map((s) => (
            <tr
              key={s.id}
              aria-selected={selected === s.id}
              className={onSelect ? "cursor-pointer hover:bg-bench" : ""}
              onClick={() => onSelect?.(s.id)}
            >
              <td className="font-medium">
                {onSelect ? (
                  <button
                    className="text-left hover:text-bramble"
                    aria-expanded={selected === s.id}
                    onClick={(event) => {
                      event.stopPropagation();
                      onSelect(s.id);
                    }}
                  >
                    {s.id}
                  </button>
                ) : (
                  s.id
                )}
              </td>
              <td>{s.station}</td>
              <td className="num">
                {length(s.instrumentHeight)}
                {!Number.isNaN(s.receivedHeight) && s.receivedHeight !== s.instrumentHeight ? "*" : ""}
              </td>
              <td>{s.backsights.map((b) => b.number).join(", ") || "–"}</td>
              <td className="num">
                {Number.isNaN(s.orientation)
                  ? "–"
                  : directionText(s.orientation, angle === "bearing-dms" ? "azimuth-dms" : angle)}
              </td>
              <td className="num">{s.backsights.map((b) => off(b.distance)).join(", ") || "–"}</td>
              <td className="num">{s.backsights.map((b) => off(b.level)).join(", ") || "–"}</td>
              <td className="num">{s.shots}</td>
              <td className={`num ${s.outlying.length ? "font-semibold text-amber" : ""}`}>
                {s.out ? "taken out" : s.outlying.length}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {setups
        .filter((s) => s.problem)
        .map((s) => (
          <p key={s.id} role="alert" className="mt-1 text-amber">
            Setup {s.id}: {s.problem}
          </p>
        ))}
    </div>
  );
}

/** The report of one setup: backsights, faces, shots outside tolerance. */
export function SetupReportView({
  setup: s,
  unit,
  numberAt,
}: {
  setup: SetupReport;
  unit: Unit;
  numberAt: (row: number) => string | undefined;
}) {
  const d = decimalsOf(unit),
    text = (x: number, decimals: number) =>
      Number.isNaN(x) ? "–" : `${formatFixed(x, decimals).replace("-", "−")} ${unit}`,
    length = (x: number) => text(x, d),
    off = (x: number) => text(x, misclosureDecimals(unit));
  return (
    <div className="border-l-2 border-rule pl-4">
      {s.backsights.map((b) => (
        <p key={b.number} className="min-h-6 tabular-nums">
          Backsight {b.number}: direction off {secondsText(b.direction)}, distance off {off(b.distance)}, level off{" "}
          {off(b.level)}
        </p>
      ))}
      {s.faces.length > 0 && (
        <table className="plain mt-2" aria-label="Faces">
          <thead>
            <tr>
              <th>Target in two faces</th>
              <th className="num">Circle, two − one</th>
              <th className="num">Zenith sum − 360°</th>
              <th className="num">Slope, two − one</th>
            </tr>
          </thead>
          <tbody>
            {s.faces.slice(0, 50).map((f, k) => (
              <tr key={k}>
                <td>{f.number}</td>
                <td className="num">{secondsText(f.circle)}</td>
                <td className="num">{secondsText(f.zenith)}</td>
                <td className="num">{off(f.slope)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {s.outlying.map((o, k) => (
        <p key={k} className="mt-1 text-amber tabular-nums">
          {o.of === "control" ? `Control ${numberAt(o.row)} was observed` : `Shots on ${numberAt(o.row)} differ by`}{" "}
          {length(o.plan)} in plan{Number.isNaN(o.level) ? "" : `, ${length(o.level)} in level`}
          {o.of === "control" ? " from its known position" : ""}.
        </p>
      ))}
      {s.outlying.length === 0 && !s.problem && !s.out && <p className="mt-1 text-leaf">All shots within tolerance.</p>}
    </div>
  );
}
