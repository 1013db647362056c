"use client";
/** A delivery as it was received: its lines with those marked that gave no point, or its bytes. Only what is in sight is there. */
import { useEffect, useMemo, useRef, useState } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import type { StoredIntake } from "@bramble/db";
import { getBytes } from "../../lib/client";
import { useParts } from "../../lib/store";
import { Failed } from "../Bench";

const LINE = 22,
  MOST_LINES = 1_200_000,
  MOST_BYTES = 16 << 20;

function useBytes(intake: StoredIntake) {
  const { jobId } = useParts("jobId");
  const [bytes, setBytes] = useState<Uint8Array>(),
    [problem, setProblem] = useState("");
  useEffect(() => {
    getBytes(`/api/jobs/${jobId}/intakes/${encodeURIComponent(intake.id)}`).then(
      ({ buffer }) => setBytes(new Uint8Array(buffer)),
      (e: Error) => setProblem(e.message),
    );
  }, [jobId, intake.id]);
  return { bytes, problem };
}

export function LinesView({ intake }: { intake: StoredIntake }) {
  const { bytes, problem } = useBytes(intake);
  const scroller = useRef<HTMLDivElement>(null);
  const starts = useMemo(() => (bytes ? lineStarts(bytes) : new Int32Array(0)), [bytes]);
  const refused = useMemo(() => new Map(intake.refused.map((r) => [r.row, r.reason])), [intake]);
  const virtual = useVirtualizer({
    count: Math.max(0, starts.length - 1),
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE,
    overscan: 10,
  });
  const text = useMemo(() => new TextDecoder(intake.encoding === "latin1" ? "windows-1252" : "utf-8"), [intake]);
  const next = (row: number) => virtual.scrollToIndex(row - 1, { align: "center" });
  const [at, setAt] = useState(-1);
  if (problem) return <Failed>{problem}</Failed>;
  return (
    <>
      {refused.size > 0 && (
        <button
          className="button button-plain -ml-1.5"
          onClick={() => {
            const k = (at + 1) % intake.refused.length;
            setAt(k);
            next(intake.refused[k]!.row);
          }}
        >
          Next refused row
        </button>
      )}
      <div
        ref={scroller}
        className="h-72 overflow-auto border border-rule bg-sheet font-mono text-[12px]"
        role="list"
        aria-label={`Rows of ${intake.file}`}
        tabIndex={0}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const why = refused.get(v.index + 1),
              line = bytes!.subarray(starts[v.index]!, Math.min(starts[v.index + 1]!, starts[v.index]! + 2000));
            return (
              <div
                key={v.key}
                role="listitem"
                title={why}
                className={`absolute inset-x-0 flex whitespace-pre ${why ? "bg-amber-wash text-amber" : v.index < (intake.layout?.skipRows ?? 0) ? "text-soft" : ""}`}
                style={{ top: v.start, height: LINE, lineHeight: `${LINE}px` }}
              >
                <span className="num mr-3 w-16 shrink-0 border-r border-rule-soft pr-2 text-soft">{v.index + 1}</span>
                {text.decode(line).trimEnd()}
                {why ? <span className="ml-4 font-sans">{why}</span> : null}
              </div>
            );
          })}
        </div>
      </div>
      <p className="mt-1 text-soft tabular-nums">
        {bytes
          ? `${(starts.length - 1).toLocaleString("en-GB").replaceAll(",", "\u202f")} lines${starts.length > MOST_LINES ? " shown; save the file as received for the rest" : ""}`
          : "Fetching the file …"}
      </p>
    </>
  );
}

/** Where each line starts, and where the last one ends. */
function lineStarts(bytes: Uint8Array): Int32Array {
  const starts = [0];
  for (let i = 0; i < bytes.length && starts.length <= MOST_LINES; i++) {
    if (bytes[i] === 10 || (bytes[i] === 13 && bytes[i + 1] !== 10)) starts.push(i + 1);
  }
  if (starts.at(-1) !== bytes.length && starts.length <= MOST_LINES) starts.push(bytes.length);
  return Int32Array.from(starts);
}

export function BytesView({ intake }: { intake: StoredIntake }) {
  const { bytes, problem } = useBytes(intake);
  const scroller = useRef<HTMLDivElement>(null);
  const shown = Math.min(bytes?.length ?? 0, MOST_BYTES);
  const virtual = useVirtualizer({
    count: Math.ceil(shown / 16),
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE,
    overscan: 10,
  });
  if (problem) return <Failed>{problem}</Failed>;
  return (
    <>
      <div
        ref={scroller}
        className="mt-2 h-72 overflow-auto border border-rule bg-sheet font-mono text-[12px]"
        role="list"
        aria-label={`Bytes of ${intake.file}`}
        tabIndex={0}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = bytes!.subarray(16 * v.index, Math.min(16 * v.index + 16, shown));
            const hex = Array.from(row, (b) => b.toString(16).padStart(2, "0")).join(" "),
              plain = Array.from(row, (b) => (b >= 32 && b < 127 ? String.fromCharCode(b) : "·")).join("");
            return (
              <div
                key={v.key}
                role="listitem"
                className="absolute inset-x-0 flex gap-4 whitespace-pre"
                style={{ top: v.start, height: LINE, lineHeight: `${LINE}px` }}
              >
                <span className="num w-20 shrink-0 border-r border-rule-soft pr-2 text-soft">{16 * v.index}</span>
                <span className="w-[48ch] shrink-0">{hex}</span>
                <span className="text-soft">{plain}</span>
              </div>
            );
          })}
        </div>
      </div>
      <p className="mt-1 truncate text-soft tabular-nums">
        {bytes
          ? `${bytes.length.toLocaleString("en-GB").replaceAll(",", "\u202f")} bytes${bytes.length > shown ? ", the first 16 MB shown" : ""}, SHA-256 ${intake.sha256}`
          : "Fetching the file …"}
      </p>
    </>
  );
}
