"use client";
/** A text that is taken when its field is left, or with Enter. */
import { Meanwhile } from "./Meanwhile";
import { useText } from "./use-text";

export function TakenText({
  label,
  value,
  take,
  hint,
  width = "w-full min-w-0",
}: {
  label: string;
  value: string;
  take: (text: string) => void;
  hint?: string;
  width?: string;
}) {
  const { text, setText, taken, meanwhile, reset } = useText(value);
  return (
    <>
      <input
        className={`field h-7 ${width}`}
        aria-label={label}
        placeholder={hint}
        value={text}
        maxLength={10_000}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          taken();
          if (text !== value) take(text);
        }}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          taken();
          take(text);
        }}
      />
      <Meanwhile text={meanwhile} take={reset} />
    </>
  );
}
