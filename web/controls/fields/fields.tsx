"use client";
/** Fields of the kinds of values that there are, each taken when it is left. */
import { settingOf, type Unit } from "@bramble/core";
import { useParts } from "../../lib/store";
import { directionReading, lengthReading, numberReading, orNothing, textReading } from "./reading";
import { Taken } from "./Taken";

interface FieldOf<T> {
  label: string;
  value: T;
  onChange: (value: T) => void;
  width?: string;
  placeholder?: string;
  named?: boolean;
}

export function TextField({
  pattern,
  must,
  width = "w-48",
  ...field
}: FieldOf<string> & {
  pattern?: RegExp;
  /** What is said of a text that is not there, where one must be. */
  must?: string;
}) {
  return (
    <Taken
      {...field}
      width={width}
      most={200}
      reading={textReading({ pattern, must, hint: `Write it as ${field.placeholder}.` })}
    />
  );
}

/** A number that must be there; `hint` says which may be. */
export function NumberField({
  allowed,
  hint,
  width = "w-32",
  ...field
}: FieldOf<number> & { allowed: (x: number) => boolean; hint: string }) {
  return <Taken {...field} width={`num ${width}`} reading={numberReading(allowed, hint)} />;
}

/** A number above 0, or none. */
export function OptionalNumberField({
  least = 0,
  placeholder = "none",
  width,
  ...field
}: FieldOf<number | undefined> & { least?: number }) {
  const reading = orNothing(numberReading((x) => x > 0 && x >= least, "A number above 0, or nothing"));
  return <Taken {...field} back width={`num ${width}`} placeholder={placeholder} reading={reading} />;
}

/** A length with any unit typed, kept in the job's. */
export function LengthField({
  unit,
  positive,
  decimals,
  typing,
  width = "w-28",
  ...field
}: FieldOf<number> & {
  unit: Unit;
  positive?: boolean;
  typing?: (x: number | undefined) => void;
  /** Shown rounded to these; what was not typed stays as it is. */
  decimals?: number;
}) {
  return (
    <Taken {...field} typing={typing} width={`num ${width}`} reading={lengthReading(unit, { positive, decimals })} />
  );
}

/** A direction in the job's style of angles; `value` and what is told are degrees clockwise from north. */
export function DirectionField(field: FieldOf<number>) {
  const { job } = useParts("job");
  return <Taken {...field} width="num w-32" reading={directionReading(settingOf(job, "angle"))} />;
}

/** A factor; 1 where none is given, and none where 1 is typed. */
export function FactorField({ value, onChange, ...field }: FieldOf<number | undefined>) {
  return (
    <Taken
      {...field}
      value={value ?? 1}
      onChange={(x) => onChange(x === 1 ? undefined : x)}
      width="num w-16"
      reading={numberReading((x) => x > 0, "A factor above 0, such as 1.25.")}
    />
  );
}
