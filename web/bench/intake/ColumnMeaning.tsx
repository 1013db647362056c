"use client";
/** What one column means: the names of the trade, the attributes of the code book, or an attribute named here. */
import { useState } from "react";
import { columnName, COLUMNS, type Column } from "@bramble/core";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";

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
      <Typed
        label={`Name of the attribute in column ${k + 1}`}
        named={false}
        className="field h-6 w-full min-w-24 px-1"
        autoFocus
        text={naming}
        most={60}
        onType={setNaming}
        take={take}
        drop={() => setNaming(undefined)}
      />
    );
  }
  return (
    <Choice
      label={`Meaning of column ${k + 1}`}
      named={false}
      className={`field h-6 w-full min-w-24 px-1 ${value === "skip" ? "text-soft" : "font-medium text-bramble"}`}
      value={value}
      onChange={(v) => (v === "name" ? setNaming(head?.replace(/^attr:/i, "") ?? "") : onChange(v))}
      options={[
        ...COLUMNS.map((c) => [c, columnName(c)] as const),
        ...(known.length > 0 ? [{ group: "attribute", of: known.map((a) => [`attr:${a}`, a] as const) }] : []),
        ["name", "attribute named …"],
      ]}
    />
  );
}
