"use client";
/** A choice from a short list. */
import { useId } from "react";
import type { unless } from "../unless";

type Value = string | number;
export type Option<V extends Value = string> = readonly [value: V, words: string];
export interface OptionGroup<V extends Value = string> {
  group: string;
  of: readonly Option<V>[];
}

/** The options of a list of words by their values. */
export const optionsOf = <V extends string>(words: Readonly<Record<V, string>>) =>
  Object.entries(words) as [V, string][];

type Options = readonly (Option<Value> | OptionGroup<Value>)[];
type OneOf<O> = O extends readonly [infer V, string] ? V : O extends { of: readonly (infer P)[] } ? OneOf<P> : never;

export function Choice<const O extends Options>({
  label,
  named = true,
  value,
  onChange,
  options,
  ask,
  more,
  width = "",
  low = !named,
  className,
  title,
  autoFocus,
  without,
}: {
  label: string;
  /** Whether the label is written over the field; else it is for those who do not see it. */
  named?: boolean;
  /** One that is not among the options leaves the field blank. */
  value: Value;
  onChange: (value: OneOf<O[number]>) => void;
  options: O;
  /** Stands in the field while nothing is chosen, and cannot be chosen. */
  ask?: string;
  /** What is said at the end of a list that does not hold all. */
  more?: string | undefined;
  width?: string;
  /** As high as a line of a table. */
  low?: boolean;
  className?: string;
  title?: string | undefined;
  autoFocus?: boolean;
  /** Why nothing can be chosen now. */
  without?: ReturnType<typeof unless>;
}) {
  const id = useId();
  const all = options.flatMap((o): readonly Option<Value>[] => ("group" in o ? o.of : [o]));
  const field = (
    <select
      id={id}
      className={className ?? `field ${named ? "mt-0.5" : ""} ${low ? "h-6" : ""} ${width}`}
      {...(named ? {} : { "aria-label": label })}
      title={title}
      autoFocus={autoFocus}
      value={value}
      onChange={({ target }) => {
        const chosen = all.find(([v]) => String(v) === target.value);
        if (chosen) onChange(chosen[0] as OneOf<O[number]>);
      }}
      {...without}
    >
      {ask !== undefined && (
        <option value="" disabled>
          {ask}
        </option>
      )}
      {options.map((o) =>
        "group" in o ? (
          <optgroup key={`group ${o.group}`} label={o.group}>
            {o.of.map(([v, words]) => (
              <option key={v} value={v}>
                {words}
              </option>
            ))}
          </optgroup>
        ) : (
          <option key={o[0]} value={o[0]}>
            {o[1]}
          </option>
        ),
      )}
      {more && <option disabled>{more}</option>}
    </select>
  );
  if (!named) return field;
  return (
    <div>
      <label className="label block" htmlFor={id}>
        {label}
      </label>
      {field}
    </div>
  );
}
