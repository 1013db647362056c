"use client";

/** A number that is dragged; `keep` is told when it is let go. */
export function Slider({
  label,
  value,
  least,
  most,
  step = 1,
  words,
  drag,
  keep,
  className,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step?: number;
  /** The value as it is read out. */
  words: string;
  drag: (value: number) => void;
  keep?: () => void;
  className: string;
}) {
  return (
    <input
      type="range"
      className={`h-7 accent-bramble ${className}`}
      aria-label={label}
      aria-valuetext={words}
      min={least}
      max={most}
      step={step}
      value={value}
      onChange={(event) => drag(Number(event.target.value))}
      onPointerUp={keep}
      onKeyUp={keep}
      onBlur={keep}
    />
  );
}
