/** Findings in their order: the worst first, kind by kind; kinds with very many are one line until they are opened. */
import type { Finding, Severity } from "@bramble/core";

const ORDER = { error: 0, warning: 1, note: 2 } as const;
export const MARK = { error: "text-red", warning: "text-amber", note: "text-soft" } as const;
export const SIGN = { error: "●", warning: "▲", note: "–" } as const;

/** More of one kind than this are one line. */
const FOLDED = 25;
/** Of an opened kind so many are shown. */
const MOST = 500;

interface Heading {
  kind: string;
  severity: Severity;
  count: number;
  open: boolean;
}
export type Row = Finding | Heading;
export const isHeading = (r: Row): r is Heading => "open" in r;

export function rowsOf(findings: readonly Finding[], opened: readonly string[]): Row[] {
  const kinds = new Map<string, Finding[]>();
  for (const f of findings) {
    const same = kinds.get(f.kind);
    if (same) same.push(f);
    else kinds.set(f.kind, [f]);
  }
  const worst = (list: readonly Finding[]) =>
    list.reduce((s: Severity, f) => (ORDER[f.severity] < ORDER[s] ? f.severity : s), "note");
  return [...kinds]
    .map(([kind, list]) => ({ kind, list, severity: worst(list) }))
    .sort((a, b) => ORDER[a.severity] - ORDER[b.severity])
    .flatMap(({ kind, list, severity }): Row[] => {
      if (list.length <= FOLDED) return list;
      const open = opened.includes(kind);
      return [{ kind, severity, count: list.length, open }, ...(open ? list.slice(0, MOST) : [])];
    });
}
