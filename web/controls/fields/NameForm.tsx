"use client";
import { useState } from "react";
import { unless } from "../unless";
import { Typed } from "./Typed";

/** Asks for the name of a new thing, which no other of its kind has. */
export function NameForm({
  label,
  action,
  first,
  taken,
  replaces = [],
  make,
  leave,
}: {
  label: string;
  action: string;
  first: string;
  taken: string[];
  /** Names whose thing would be replaced: it is asked first. */
  replaces?: readonly string[];
  make: (name: string) => Promise<void>;
  leave?: () => void;
}) {
  const [name, setName] = useState(first);
  const twice = taken.includes(name.trim()),
    replaced = replaces.includes(name.trim());
  return (
    <form
      className="flex flex-wrap items-end gap-2 pb-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() && !twice) void make(name.trim());
      }}
    >
      <Typed label={label} width="w-56" text={name} most={200} autoFocus onType={setName} />
      <button
        className="button button-main"
        {...unless(twice ? "There is one of this name already." : !name.trim() && "Type a name first.")}
      >
        {replaced ? `Replace “${name.trim()}”` : action}
      </button>
      {leave && (
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
      )}
      {replaced && <span className="text-amber">There is one of that name: this would take its place.</span>}
      {twice && <span className="text-amber">There is one of that name.</span>}
    </form>
  );
}
