"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { UNIT_NAMES, UNITS, type Unit } from "@bramble/core";
import type { JobListed } from "@bramble/db";
import { setAuthor, useAuthor } from "../lib/author";
import { postJson } from "../lib/client";
import { when } from "../lib/units-shown";
import { AskAuthor } from "./AskAuthor";
import { PLACE_NAMES, PLACE_WORK, PLACES } from "./places";

export function JobList({
  jobs,
  templates,
}: {
  jobs: JobListed[];
  templates: { name: string; unit: Unit; order: string }[];
}) {
  const author = useAuthor();
  if (author === undefined) return null;
  if (author === "") return <AskAuthor />;
  return (
    <main className="mx-auto grid max-w-6xl grid-cols-[1fr_320px] gap-12 px-10 py-12">
      <section aria-labelledby="jobs">
        <p className="font-serif text-[15px] text-bramble italic">Rough Bramble</p>
        <h1 id="jobs" className="mt-1 font-serif text-4xl font-semibold">
          Jobs
        </h1>
        <p className="mt-2 text-soft">
          {jobs.length === 0
            ? "No job yet. Make the first one on the right."
            : "Open a job, or make a new one on the right."}{" "}
          Changes are written in the ledger as {author}.{" "}
          <button className="underline hover:text-bramble" onClick={() => setAuthor("")}>
            Someone else?
          </button>
        </p>
        {jobs.length > 0 && (
          <table className="plain mt-6">
            <thead>
              <tr>
                <th>Name</th>
                <th className="num">Points</th>
                <th className="num">Intakes</th>
                <th>Unit</th>
                <th>Last change</th>
              </tr>
            </thead>
            <tbody>
              {jobs.map((j) => (
                <tr key={j.id} className="hover:bg-bench">
                  <td>
                    <Link href={`/jobs/${j.id}/points`} className="font-medium hover:text-bramble">
                      {j.name}
                    </Link>
                  </td>
                  <td className="num">{j.points.toLocaleString("en-GB").replaceAll(",", "\u202f")}</td>
                  <td className="num">{j.intakes}</td>
                  <td>{UNIT_NAMES[j.unit]}</td>
                  <td className="text-soft" suppressHydrationWarning>
                    {j.changed ? `${when(j.changed)}, ${j.author}` : "none yet"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <section aria-labelledby="path" className="mt-14">
          <h2 id="path" className="heading">
            The path of a job
          </h2>
          <ol className="rows mt-2">
            {PLACES.map((p, k) => (
              <li
                key={p}
                className="grid min-h-9 grid-cols-[28px_96px_1fr] items-baseline border-b border-rule-soft py-2"
              >
                <span className="font-serif text-bramble">{k + 1}</span>
                <span className="font-medium">{PLACE_NAMES[p]}</span>
                <span className="text-soft">{PLACE_WORK[p]}</span>
              </li>
            ))}
          </ol>
          <p className="mt-3 text-soft">
            A change anywhere on the path goes on by itself to everything after it, and the ledger can take it back.
          </p>
        </section>
      </section>
      <NewJob templates={templates} />
    </main>
  );
}

function NewJob({ templates }: { templates: { name: string; unit: Unit; order: string }[] }) {
  const router = useRouter();
  const [template, setTemplate] = useState("");
  const [name, setName] = useState("");
  const [unit, setUnit] = useState<Unit>("m");
  const [order, setOrder] = useState("NE");
  const [book, setBook] = useState("general");
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const create = async () => {
    setBusy(true);
    try {
      const { id } = await postJson<{ id: number }>("/api/jobs", {
        name: name.trim(),
        unit,
        order,
        ...(book ? { book } : {}),
        ...(template ? { template } : {}),
      });
      router.push(`/jobs/${id}/intake`);
    } catch (e) {
      setProblem((e as Error).message);
      setBusy(false);
    }
  };
  return (
    <form
      aria-labelledby="new-job"
      className="self-start border-l border-rule pl-8"
      onSubmit={(event) => {
        event.preventDefault();
        void create();
      }}
    >
      <h2 id="new-job" className="heading">
        New job
      </h2>
      <label className="label mt-4 block" htmlFor="job-name">
        Name
      </label>
      <input
        id="job-name"
        className="field mt-1 w-full"
        value={name}
        maxLength={200}
        onChange={(event) => setName(event.target.value)}
        required
      />
      {templates.length > 0 && (
        <>
          <label className="label mt-3 block" htmlFor="job-template">
            Template
          </label>
          <select
            id="job-template"
            className="field mt-1 w-full"
            value={template}
            onChange={(event) => {
              const t = templates.find((x) => x.name === event.target.value);
              setTemplate(event.target.value);
              setBook(t ? "" : "general");
              if (t) {
                setUnit(t.unit);
                setOrder(t.order);
              }
            }}
          >
            <option value="">none</option>
            {templates.map((t) => (
              <option key={t.name} value={t.name}>
                {t.name}
              </option>
            ))}
          </select>
        </>
      )}
      <label className="label mt-3 block" htmlFor="job-unit">
        Length unit
      </label>
      <select
        id="job-unit"
        className="field mt-1 w-full"
        value={unit}
        onChange={(event) => setUnit(event.target.value as Unit)}
      >
        {UNITS.map((u) => (
          <option key={u} value={u}>
            {UNIT_NAMES[u]}
          </option>
        ))}
      </select>
      <label className="label mt-3 block" htmlFor="job-order">
        Coordinate order
      </label>
      <select
        id="job-order"
        className="field mt-1 w-full"
        value={order}
        onChange={(event) => setOrder(event.target.value)}
      >
        <option value="NE">northing first</option>
        <option value="EN">easting first</option>
      </select>
      <label className="label mt-3 block" htmlFor="job-book">
        Code book
      </label>
      <select
        id="job-book"
        className="field mt-1 w-full"
        value={book}
        onChange={(event) => setBook(event.target.value)}
      >
        {template && <option value="">as in the template</option>}
        <option value="general">General topographic, of the office</option>
        <option value="empty">Empty: every code unknown</option>
      </select>
      {problem && (
        <p role="alert" className="mt-3 text-red">
          {problem}
        </p>
      )}
      <button className="button button-main mt-5" disabled={!name.trim() || busy}>
        Make the job
      </button>
      <p className="mt-3 text-soft">The next step is its first intake.</p>
    </form>
  );
}
