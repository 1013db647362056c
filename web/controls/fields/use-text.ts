"use client";
import { useState } from "react";

/**
 * The text of a field. What is being typed stays under the hands when the value becomes another elsewhere; what it became is
 * told, to stand beside the field.
 */
export function useText(value: string) {
  const [text, setText] = useState(value),
    [shown, setShown] = useState(value),
    [typing, setTyping] = useState(false),
    [came, setCame] = useState<string>();
  if (shown !== value) {
    setShown(value);
    if (!typing) setText(value);
    setCame(typing ? value : undefined);
  }
  return {
    text,
    setText: (next: string) => {
      setText(next);
      setTyping(true);
    },
    /** The field was left or its text taken: what the value becomes now stands in it. */
    taken: () => setTyping(false),
    /** What the value became while this was typed; undefined where it is as it was. */
    meanwhile: text === value ? undefined : came,
    /** Leaves what was typed for what the value is now. */
    reset: () => {
      setText(value);
      setTyping(false);
      setCame(undefined);
    },
  };
}
