"use client";
/** Line styles and symbols in small, and choosing one from all. */
import { useState } from "react";
import { Popover } from "radix-ui";
import { marksAlong } from "@bramble/core/drawing/along";
import { lineStyle, LINE_STYLES, type LineStyle } from "@bramble/core/drawing/line-styles";
import { isPath, placed, type Stroke } from "@bramble/core/drawing/strokes";
import { symbolOf, SYMBOLS, type Symbol } from "@bramble/core/drawing/symbols";

/** A survey colour as the sheet of the present theme has it. */
export function surveyColor(color: string): string {
  return `color-mix(in srgb, ${color} var(--survey), white)`;
}

function Drawn({ stroke: s, width }: { stroke: Stroke; width: number }) {
  const look = {
    fill: s.filled ? "currentColor" : "none",
    stroke: s.filled ? "none" : "currentColor",
    strokeWidth: width,
  };
  if (isPath(s)) {
    const points = Array.from({ length: s.path.length / 2 }, (_, k) => `${s.path[2 * k]},${-s.path[2 * k + 1]!}`).join(
      " ",
    );
    return s.closed ? (
      <polygon points={points} {...look} strokeLinejoin="round" />
    ) : (
      <polyline points={points} {...look} strokeLinecap="round" strokeLinejoin="round" />
    );
  }
  if (s.from === undefined) return <circle cx={s.at[0]} cy={-s.at[1]} r={s.radius} {...look} />;
  const end = (deg: number) =>
    `${s.at[0] + s.radius * Math.cos((deg * Math.PI) / 180)} ${-(s.at[1] + s.radius * Math.sin((deg * Math.PI) / 180))}`;
  // A full turn given as an arc is two halves.
  const sweep = s.to! - s.from,
    parts = sweep >= 359.9 ? [s.from, s.from + 180, s.from + 360] : [s.from, s.to!];
  return (
    <path
      d={`M ${end(parts[0]!)} ${parts
        .slice(1)
        .map((to, k) => `A ${s.radius} ${s.radius} 0 ${to - parts[k]! > 180 ? 1 : 0} 0 ${end(to)}`)
        .join(" ")}`}
      {...look}
      strokeLinecap="round"
    />
  );
}

export function LineSwatch({ style, color }: { style: LineStyle; color: string }) {
  const marks: Stroke[] = [];
  marksAlong([0, 0, 26, 0], style, ({ x }, second) => {
    for (const s of second ? (style.marks!.second ?? style.marks!.strokes) : style.marks!.strokes)
      marks.push(placed(s, 1, 0, x, 0));
  });
  return (
    <svg viewBox="-1 -3 28 6" width={112} height={24} aria-hidden style={{ color: surveyColor(color) }}>
      {(style.rails ?? [0]).map((y) => (
        <line
          key={y}
          x1={0}
          x2={26}
          y1={-y}
          y2={-y}
          stroke="currentColor"
          strokeWidth={style.width}
          strokeDasharray={style.dash?.join(" ")}
        />
      ))}
      {marks.map((s, k) => (
        <Drawn key={k} stroke={s} width={style.width} />
      ))}
    </svg>
  );
}

export function SymbolSwatch({ symbol, color, size = 24 }: { symbol: Symbol; color: string; size?: number }) {
  return (
    <svg viewBox="-0.72 -0.72 1.44 1.44" width={size} height={size} aria-hidden style={{ color: surveyColor(color) }}>
      {symbol.strokes.map((s, k) => (
        <Drawn key={k} stroke={s} width={0.07} />
      ))}
      {symbol.heart?.map((s, k) => (
        <Drawn key={`h${k}`} stroke={placed(s, 1 / symbol.size)} width={0.07} />
      ))}
    </svg>
  );
}

interface SwatchField {
  value: string | undefined;
  color: string;
  onChange: (name: string) => void;
}

export function StyleField({ value, color, onChange }: SwatchField) {
  return (
    <Choosing
      label="Line style"
      all={LINE_STYLES}
      now={lineStyle(value)}
      swatch={(style) => <LineSwatch style={style} color={color} />}
      onChange={onChange}
      columns="grid-cols-2"
    />
  );
}

export function SymbolField({ value, color, onChange }: SwatchField) {
  return (
    <Choosing
      label="Symbol"
      all={SYMBOLS}
      now={symbolOf(value ?? "spot") ?? symbolOf("spot")!}
      swatch={(symbol, size) => <SymbolSwatch symbol={symbol} color={color} {...(size ? { size } : {})} />}
      onChange={onChange}
      columns="grid-cols-3"
    />
  );
}

/** A choice by its picture. */
function Choosing<T extends { name: string; about: string }>({
  label,
  all,
  now,
  swatch,
  onChange,
  columns,
}: {
  label: string;
  all: readonly T[];
  now: T;
  /** `size` in pixels where it is shown as chosen. */
  swatch: (one: T, size?: number) => React.ReactNode;
  onChange: (name: string) => void;
  columns: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <div>
      <span className="label block">{label}</span>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="field mt-0.5 flex w-full items-center gap-2" aria-label={label}>
          {swatch(now, 20)}
          <span className="text-soft">{now.name}</span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className={`z-30 grid max-h-96 w-[480px] gap-x-1 overflow-auto rounded-sm border border-rule bg-bench p-1.5 shadow-lg ${columns}`}
            role="listbox"
            aria-label={label}
          >
            {all.map((one) => (
              <button
                key={one.name}
                type="button"
                role="option"
                aria-selected={one.name === now.name}
                title={one.about}
                className="flex h-8 items-center gap-2 rounded-sm px-2 hover:bg-bramble-wash aria-selected:bg-bramble-wash"
                onClick={() => {
                  onChange(one.name);
                  setOpen(false);
                }}
              >
                {swatch(one)}
                <span className="truncate">{one.name}</span>
              </button>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
