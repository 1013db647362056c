"use client";
/** What one column means: the names of the trade, the attributes of the code book, or an attribute named here. */
import { useState } from "react";
import { columnName, COLUMNS, type Column } from "@bramble/core";

export function ColumnMeaning({
  k,
  value,
  attributes,
  head,
  onChange,
}: {
  k: number;
  value: Column;
  attributes: readonly string[];
  head?: string;
  onChange: (c: Column) => void;
}) {
  const [naming, setNaming] = useState<string>();
  const own = value.startsWith("attr:") ? value.slice(5) : undefined;
  const known = own !== undefined && !attributes.includes(own) ? [own, ...attributes] : attributes;
  if (naming !== undefined) {
    const take = () => {
      if (naming.trim()) onChange(`attr:${naming.trim()}`);
      setNaming(undefined);
    };
    return (
      <input
        className="field h-6 w-full min-w-24 px-1"
        aria-label={`Name of the attribute in column ${k + 1}`}
        autoFocus
        value={naming}
        maxLength={60}
        onChange={(event) => setNaming(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") take();
          else if (event.key === "Escape") setNaming(undefined);
        }}
      />
    );
  }
  return (
    <select
      aria-label={`Meaning of column ${k + 1}`}
      value={value}
      className={`field h-6 w-full min-w-24 px-1 ${value === "skip" ? "text-soft" : "font-medium text-bramble"}`}
      onChange={(event) =>
        event.target.value === "name"
          ? setNaming(head?.replace(/^attr:/i, "") ?? "")
          : onChange(event.target.value as Column)
      }
    >
      {COLUMNS.map((c) => (
        <option key={c} value={c}>
          {columnName(c)}
        </option>
      ))}
      {known.length > 0 && (
        <optgroup label="attribute">
          {known.map((a) => (
            <option key={a} value={`attr:${a}`}>
              {a}
            </option>
          ))}
        </optgroup>
      )}
      <option value="name">attribute named …</option>
    </select>
  );
}
