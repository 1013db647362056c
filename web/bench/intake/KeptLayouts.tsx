"use client";
/** Layouts of files that the office keeps: listed, and no longer kept. */
import { useEffect, useState } from "react";
import { getJson, remove } from "../../lib/client";
import { useParts } from "../../lib/store";

export function KeptLayouts() {
  const { set } = useParts("set");
  const [names, setNames] = useState<string[]>([]);
  const load = () =>
    getJson<{ name: string }[]>("/api/office/layout").then(
      (list) => setNames(list.map((l) => l.name)),
      () => undefined,
    );
  useEffect(() => void load(), []);
  if (names.length === 0) return null;
  const forget = async (name: string) => {
    try {
      await remove(`/api/office/layout?name=${encodeURIComponent(name)}`);
      await load();
    } catch (e) {
      set({ notice: { text: (e as Error).message, tone: "problem" } });
    }
  };
  return (
    <section aria-label="Layouts that the office keeps" className="mt-6">
      <h2 className="label">Layouts that the office keeps: a file like theirs is read so by itself</h2>
      {names.map((name) => (
        <div key={name} className="row justify-between gap-3">
          <span className="truncate">{name}</span>
          <button
            className="button button-plain h-6"
            aria-label={`Do not keep ${name}`}
            onClick={() => void forget(name)}
          >
            Do not keep
          </button>
        </div>
      ))}
    </section>
  );
}
