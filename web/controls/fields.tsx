"use client";
/** Fields that take their value when they are left or Enter is pressed. */
import type { KeyboardEvent } from "react";
import { numberTyped } from "@bramble/core/math/typed";
import { Meanwhile } from "./Meanwhile";
import { useText } from "./use-text";
import { useTyped } from "./use-typed";

export function leaveOnEnter(event: KeyboardEvent<HTMLInputElement>): void {
  if (event.key === "Enter") event.currentTarget.blur();
}

/** A text taken when the field is left or Enter is pressed. */
export function TextField({
  label,
  value,
  onChange,
  width = "w-48",
  placeholder,
  pattern,
  must,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  width?: string;
  placeholder?: string;
  pattern?: RegExp;
  must?: boolean;
}) {
  const { text, setText, taken, meanwhile, reset } = useText(value);
  const wrong =
    (must === true && text.trim() === "") ||
    (text.trim() !== "" && pattern !== undefined && !pattern.test(text.trim()));
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className={`field mt-0.5 ${width}`}
        value={text}
        maxLength={200}
        placeholder={placeholder}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          taken();
          if (!wrong) onChange(text.trim());
        }}
        onKeyDown={leaveOnEnter}
      />
      <Meanwhile text={meanwhile} take={reset} />
      {wrong && (
        <span role="alert" className="block text-[11.5px] text-red">
          {must ? "A job needs a name." : `Write it as ${placeholder}.`}
        </span>
      )}
    </label>
  );
}

/** A number that must be there; `hint` says which may be. */
export function NumberField({
  label,
  value,
  allowed,
  hint,
  width = "w-32",
  onChange,
}: {
  label: string;
  value: number;
  allowed: (x: number) => boolean;
  hint: string;
  width?: string;
  onChange: (x: number) => void;
}) {
  const { text, setText, taken, touched, meanwhile, reset } = useTyped(value);
  const x = numberTyped(text),
    wrong = text.trim() === "" || !Number.isFinite(x) || !allowed(x);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className={`field num mt-0.5 ${width}`}
        value={text}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          taken();
          if (touched && !wrong && x !== value) onChange(x);
        }}
        onKeyDown={leaveOnEnter}
      />
      <Meanwhile text={meanwhile} take={reset} />
      {wrong && (
        <span role="alert" className="block text-[11.5px] text-red">
          {hint}
        </span>
      )}
    </label>
  );
}

/** A number above 0, or none, taken when the field is left. */
export function OptionalNumberField({
  label,
  value,
  onChange,
  width,
  placeholder,
  least = 0,
}: {
  label: string;
  value: number | undefined;
  onChange: (x: number | undefined) => void;
  width: string;
  placeholder?: string;
  least?: number;
}) {
  const { text, setText, taken, reset, touched } = useTyped(value);
  const x = numberTyped(text),
    wrong = text.trim() !== "" && !(Number.isFinite(x) && x > 0 && x >= least);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className={`field num mt-0.5 ${width}`}
        value={text}
        placeholder={placeholder ?? "none"}
        aria-invalid={wrong}
        title={wrong ? "A number above 0, or nothing" : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          taken();
          if (wrong) reset();
          else if (touched && (text.trim() === "" ? undefined : x) !== value)
            onChange(text.trim() === "" ? undefined : x);
        }}
        onKeyDown={leaveOnEnter}
      />
    </label>
  );
}
