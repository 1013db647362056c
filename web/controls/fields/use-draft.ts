"use client";
import { useState } from "react";
import type { Reading } from "./reading";

/** A value of a form that is sent as a whole: what its field is given, and what is read of it at each key. */
export interface Draft<T> {
  typed: { text: string; onType: (text: string) => void };
  /** Undefined where it is none, or none yet. */
  value: T | undefined;
}

export function useDraft<T>(reading: Reading<T>, first = ""): Draft<T> {
  const [text, onType] = useState(first),
    read = reading.read(text);
  return { typed: { text, onType }, value: "value" in read ? read.value : undefined };
}
