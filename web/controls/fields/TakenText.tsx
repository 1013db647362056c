"use client";
/** A text that is taken when its field is left, or with Enter; what comes from elsewhere while it is typed stands beside it. */
import { Meanwhile } from "./Meanwhile";
import { Typed } from "./Typed";
import { useText } from "./use-text";

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
  return (
    <Typed
      label={label}
      named={false}
      text={text}
      onType={setText}
      take={() => {
        taken();
        if (text !== value && take(text) === false) reset();
      }}
      wrong={invalid ?? false}
      className={className}
      most={maxLength}
      {...(hint ? { placeholder: hint } : {})}
      beside={<Meanwhile text={meanwhile} take={reset} />}
    />
  );
}
