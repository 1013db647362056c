"use client";
/** Choices among what files brought: lines as breaklines, closed lines as rings, surfaces as they are. */
import type { ReferenceLine } from "@bramble/core/records/reference";
import { namesOf, ringOf, useFiles, type OfFile } from "./from-files";
import { Choice } from "../../controls/fields/Choice";

/** Lines of a file that are listed one by one; all of them can be taken at once. */
const MOST = 200;

interface Item {
  text: string;
  take: () => void;
}

/** One press-and-forget choice; nothing where there is nothing to choose. */
function Choose({ label, groups }: { label: string; groups: readonly { file: string; items: Item[] }[] }) {
  const all = groups.flatMap((g) => g.items);
  if (all.length === 0) return null;
  return (
    <Choice
      label={label}
      named={false}
      low={false}
      width="max-w-56"
      value=""
      ask={`${label} …`}
      onChange={(k) => all[k]!.take()}
      options={groups
        .filter((g) => g.items.length > 0)
        .map((g) => ({ group: g.file, of: g.items.map((item) => [all.indexOf(item), item.text] as const) }))}
    />
  );
}

/** Lines of files for a list of breaklines: one, those of a name, or all of a file. */
export function LinesOfFiles({ take }: { take: (line: { file: string; line?: string }) => void }) {
  const items = ({ file, lines }: OfFile): Item[] =>
    lines.length === 0
      ? []
      : [
          { text: `all ${lines.length} lines`, take: () => take({ file }) },
          ...namesOf(lines)
            .slice(0, MOST)
            .map(([line, count]) => ({
              text: count > 1 ? `${line} (${count})` : line,
              take: () => take({ file, line }),
            })),
        ];
  return <Choose label="Lines of a file" groups={useFiles().map((f) => ({ file: f.file, items: items(f) }))} />;
}

/** A closed line of a file as a ring, frozen as it came. */
export function RingOfFile({ label, take }: { label: string; take: (ring: [number, number][]) => void }) {
  const isRing = (l: ReferenceLine) => l.closed && l.sweep.length > 2;
  const groups = useFiles().map(({ file, lines }) => ({
    file,
    items: lines
      .filter(isRing)
      .slice(0, MOST)
      .map((l, k) => ({ text: l.name || `${l.kind} ${k + 1}`, take: () => take(ringOf(l)) })),
  }));
  return <Choose label={label} groups={groups} />;
}

/** Surfaces of files that the job has not taken yet. */
export function SurfaceOfFile({
  isUsed,
  take,
}: {
  isUsed: (file: string, surface: string) => boolean;
  take: (file: string, surface: string) => void;
}) {
  const groups = useFiles().map(({ file, surfaces }) => ({
    file,
    items: surfaces.filter((s) => !isUsed(file, s)).map((text) => ({ text, take: () => take(file, text) })),
  }));
  return <Choose label="Surface of a file" groups={groups} />;
}
