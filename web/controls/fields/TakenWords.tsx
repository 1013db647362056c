"use client";
import { Meanwhile } from "./Meanwhile";
import { useText } from "./use-text";

/** Words in as many lines as are wanted, taken when the field is left. */
export function TakenWords({
  label,
  value,
  take,
  rows,
  most,
  className,
}: {
  label: string;
  value: string;
  /** Asked only for other words than there are; false puts back what there is. */
  take: (words: string) => boolean | void;
  /** As many lines as the words have, up to these; a fixed height where it is not said. */
  rows?: number;
  most: number;
  className: string;
}) {
  const { text, setText, taken, meanwhile, reset } = useText(value);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <textarea
        className={`field mt-0.5 block py-1 ${className}`}
        rows={rows && Math.min(rows, text.split("\n").length)}
        value={text}
        maxLength={most}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          taken();
          if (text.trim() !== value.trim() && take(text.trim()) === false) reset();
        }}
      />
      <Meanwhile text={meanwhile} take={reset} />
    </label>
  );
}
