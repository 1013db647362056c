"use client";
/** Paper or night: the theme of this browser. */
import { useSyncExternalStore } from "react";

type Theme = "light" | "dark";

const now = (): Theme => (document.documentElement.dataset.theme === "dark" ? "dark" : "light");

function watch(changed: () => void): () => void {
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
  return () => observer.disconnect();
}

export function ThemeSwitch() {
  const theme = useSyncExternalStore(watch, now, (): Theme => "light");
  const other = theme === "dark" ? "light" : "dark";
  return (
    <button
      className="button px-2"
      aria-label={`Go over to the ${other} theme`}
      title={`Go over to the ${other} theme`}
      onClick={() => {
        document.documentElement.dataset.theme = other;
        localStorage.setItem("theme", other);
      }}
    >
      <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden>
        <circle cx="7" cy="7" r="5.5" fill="none" stroke="currentColor" strokeWidth="1.4" />
        <path d="M7 1.5a5.5 5.5 0 0 1 0 11z" fill="currentColor" />
      </svg>
    </button>
  );
}
