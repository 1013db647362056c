"use client";
/** Who is at the keyboard: asked once, kept in this browser. Real accounts come later. */
import { useSyncExternalStore } from "react";

const KEY = "author";
const listeners = new Set<() => void>();

export function currentAuthor(): string {
  return typeof localStorage === "undefined" ? "" : (localStorage.getItem(KEY) ?? "");
}

export function setAuthor(name: string): void {
  localStorage.setItem(KEY, name.trim());
  listeners.forEach((l) => l());
}

/** The name; undefined until the browser is there to ask. */
export function useAuthor(): string | undefined {
  return useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    currentAuthor,
    () => undefined,
  );
}
