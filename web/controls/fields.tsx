"use client";
/** Fields of the settings: each takes its value when it is left or Enter is pressed. */
import type { ReactNode } from "react";
import type { SettingField } from "@bramble/core";
import { numberTyped } from "@bramble/core/math/typed";
import { Meanwhile } from "./Meanwhile";
import { useText } from "./use-text";
import { useTyped } from "./use-typed";

export type SetSetting = (field: SettingField, value: unknown) => void;

/** A part of the settings; `holds` names the settings in it, so that one can be gone to. */
export function Section({
  title,
  about,
  holds,
  children,
}: {
  title: string;
  about?: string;
  holds?: readonly SettingField[];
  children: ReactNode;
}) {
  return (
    <section
      aria-label={title}
      data-holds={holds?.join(" ")}
      className="border-t border-rule py-3 first:border-0 first:pt-0"
    >
      <h2 className="heading pb-2">
        {title} {about && <span className="font-sans text-[13px] font-normal text-soft">{about}</span>}
      </h2>
      {children}
    </section>
  );
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
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
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

export function NoteField({ value, onChange }: { value: string; onChange: (v: string) => void }) {
  const { text, setText, taken, meanwhile, reset } = useText(value);
  return (
    <label className="mt-2 block">
      <span className="label block">Notes</span>
      <textarea
        className="field mt-0.5 w-full py-1"
        style={{ height: 56 }}
        value={text}
        maxLength={10000}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          taken();
          onChange(text.trim());
        }}
      />
      <Meanwhile text={meanwhile} take={reset} />
    </label>
  );
}

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
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
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
