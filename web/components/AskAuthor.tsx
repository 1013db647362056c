"use client";
import { useState } from "react";
import { setAuthor } from "../lib/author";
import { unless } from "../controls/unless";
import { Typed } from "../controls/fields/Typed";

/** Asked once for each browser; the name stands in the ledger beside every change. */
export function AskAuthor() {
  const [name, setName] = useState("");
  return (
    <main className="mx-auto flex h-dvh max-w-md flex-col justify-center px-6">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) setAuthor(name);
        }}
      >
        <h1 className="font-serif text-3xl font-semibold">Who is at the keyboard?</h1>
        <p className="mt-2 text-soft">
          Your name is written beside every change that you make, so that the office knows whom to ask.
        </p>
        <span className="label mt-6 block" aria-hidden>
          Name
        </span>
        <div className="mt-1 flex gap-2">
          <Typed
            label="Name"
            named={false}
            className="field flex-1"
            text={name}
            most={80}
            complete="name"
            autoFocus
            onType={setName}
          />
          <button className="button button-main" {...unless(!name.trim() && "Type your name first.")}>
            Begin
          </button>
        </div>
      </form>
    </main>
  );
}
