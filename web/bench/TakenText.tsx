"use client";
/** A text that is taken when its field is left, or with Enter; what comes from elsewhere while it is typed stands beside it. */
import { Meanwhile } from "../controls/Meanwhile";
import { useText } from "../controls/use-text";

export function TakenText({
  label,
  value,
  take,
  hint,
  className = "field h-7 w-full min-w-0",
  maxLength = 10_000,
  invalid,
}: {
  label: string;
  value: string;
  /** Asked only for another text than there is; false puts back what there is. */
  take: (text: string) => boolean | void;
  hint?: string;
  className?: string;
  maxLength?: number;
  invalid?: boolean;
}) {
  const { text, setText, taken, meanwhile, reset } = useText(value);
  const leave = () => {
    taken();
    if (text !== value && take(text) === false) reset();
  };
  return (
    <>
      <input
        className={className}
        aria-label={label}
        placeholder={hint}
        value={text}
        maxLength={maxLength}
        aria-invalid={invalid}
        onChange={(event) => setText(event.target.value)}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          leave();
        }}
      />
      <Meanwhile text={meanwhile} take={reset} />
    </>
  );
}
