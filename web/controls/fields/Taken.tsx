"use client";
import { useState } from "react";
import { Meanwhile } from "./Meanwhile";
import type { Reading } from "./reading";
import { Typed, type TypedLook } from "./Typed";
import { useText } from "./use-text";

/**
 * A value that is typed and taken when its field is left or at Enter, which makes it a change of its own; what is wrong
 * with it stands beside it and is not taken. What it becomes elsewhere while somebody types is told.
 */
export function Taken<T>({
  reading,
  value,
  onChange,
  typing,
  back,
  ...look
}: TypedLook & {
  reading: Reading<T>;
  value: T;
  onChange: (value: T) => void;
  /** Told at each key: the value as it stands there, undefined where it is none. */
  typing?: ((value: T | undefined) => void) | undefined;
  /** What cannot be read is put back instead of told: for fields without room for a sentence. */
  back?: boolean;
}) {
  const own = reading.write(value),
    { text, setText, taken, reset, meanwhile } = useText(own),
    [left, setLeft] = useState(false),
    read = text === own ? undefined : reading.read(text),
    problem = read && "problem" in read ? read.problem : "";
  const take = () => {
    taken();
    setLeft(true);
    if (!read) return;
    if ("value" in read && read.value !== value) onChange(read.value);
    else if ("value" in read || back) reset();
  };
  return (
    <Typed
      {...look}
      text={text}
      onType={(next) => {
        setText(next);
        const told = reading.read(next);
        typing?.("value" in told ? told.value : undefined);
      }}
      take={take}
      wrong={problem !== ""}
      problem={left && !back && problem}
      title={back && problem ? problem : look.title}
      beside={<Meanwhile text={meanwhile} take={reset} />}
    />
  );
}
