"use client";
import { useId, type ReactNode } from "react";

/** How a field of typed text looks, whatever is read from it. */
export interface TypedLook {
  label: string;
  /** For links that lead to it. */
  id?: string;
  /** Whether the label is written over the field; else it is for those who do not see it, and the field is low. */
  named?: boolean;
  width?: string;
  placeholder?: string;
  /** The most letters that can be typed; any number where it is not said. */
  most?: number;
  title?: string | undefined;
  autoFocus?: boolean;
  /** What the browser may fill in of itself. */
  complete?: string;
  /** What stands in it goes at the first key. */
  selected?: boolean;
  /** What may be chosen instead of typing, each with more words about it if there are any. */
  offers?: readonly (readonly [value: string, about?: string])[];
  /** Other classes than those of a field that is named or not. */
  className?: string;
  /** Classes of the box round label and field. */
  box?: string;
  /** Typed on the keys for digits where there are such. */
  numeric?: boolean;
}

/**
 * The one field of typed text: all others are made of it. It tells each key, and asks that its text be taken when it is
 * left and at Enter.
 */
export function Typed({
  label,
  id,
  named = true,
  text,
  onType,
  take,
  drop,
  problem,
  wrong = Boolean(problem),
  width = "",
  placeholder,
  most,
  title,
  autoFocus,
  complete,
  selected,
  offers,
  className,
  box = "",
  numeric,
  beside,
}: TypedLook & {
  text: string;
  onType: (text: string) => void;
  /** Left out in forms that are sent as a whole. */
  take?: () => void;
  /** At Esc. */
  drop?: () => void;
  /** What is wrong with it as it stands, in a sentence that says what to type. */
  problem?: string | false | undefined;
  /** Whether it is marked as wrong, where the sentence stands elsewhere. */
  wrong?: boolean;
  /** What stands below it, before what is wrong with it. */
  beside?: ReactNode;
}) {
  const own = useId(),
    at = id ?? own,
    list = `${own} offers`,
    told = `${own} problem`;
  const field = (
    <>
      <input
        id={at}
        className={className ?? `field ${named ? "mt-0.5" : "h-6"} ${width}`}
        {...(named ? {} : { "aria-label": label })}
        value={text}
        placeholder={placeholder}
        title={title}
        maxLength={most}
        autoFocus={autoFocus}
        autoComplete={complete}
        onFocus={selected ? (event) => event.currentTarget.select() : undefined}
        list={offers && list}
        inputMode={numeric ? "numeric" : undefined}
        aria-invalid={wrong}
        aria-describedby={problem ? told : undefined}
        onChange={(event) => onType(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Escape") drop?.();
          if (event.key !== "Enter" || !take) return;
          event.preventDefault();
          take();
        }}
      />
      {offers && (
        <datalist id={list}>
          {offers.map(([value, about]) => (
            <option key={value} value={value}>
              {about}
            </option>
          ))}
        </datalist>
      )}
      {beside}
      {problem && (
        <span id={told} role="alert" className="block text-[11.5px] text-red">
          {problem}
        </span>
      )}
    </>
  );
  if (!named) return field;
  return (
    <div className={box}>
      <label className="label block" htmlFor={at}>
        {label}
      </label>
      {field}
    </div>
  );
}
