"use client";
/** A new job: from nothing, from a template, or with what another job of the same client has. */
import { useRouter } from "next/navigation";
import { useState } from "react";
import { UNIT_NAMES, UNITS, type Unit } from "@bramble/core";
import type { JobListed } from "@bramble/db";
import { postJson } from "../../lib/client";
import { unless } from "../../controls/unless";

/** Before the names of books that the office keeps. */
const KEPT = "kept: ";

export interface TemplateOffered {
  name: string;
  unit: Unit;
  order: string;
}

export function NewJob({
  templates,
  books,
  jobs,
}: {
  templates: readonly TemplateOffered[];
  /** Names of the code books that the office keeps. */
  books: readonly string[];
  jobs: readonly JobListed[];
}) {
  const router = useRouter();
  const [template, setTemplate] = useState("");
  const [name, setName] = useState(""),
    [like, setLike] = useState("");
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
        ...(book.startsWith(KEPT) ? { officeBook: book.slice(KEPT.length) } : book ? { book } : {}),
        ...(template ? { template } : {}),
        ...(like ? { like: Number(like) } : {}),
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
      {jobs.length > 0 && (
        <>
          <label className="label mt-3 block" htmlFor="job-like">
            Control, code book and system from
          </label>
          <select
            id="job-like"
            className="field mt-1 w-full"
            value={like}
            onChange={(event) => {
              const other = jobs.find((j) => String(j.id) === event.target.value);
              setLike(event.target.value);
              setBook(other ? "" : template ? "" : "general");
              if (other) setUnit(other.unit);
            }}
          >
            <option value="">no other job</option>
            {jobs.map((j) => (
              <option key={j.id} value={j.id}>
                {j.client ? `${j.client}: ${j.name}` : j.name}
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
        {...unless(like !== "" && "That of the job its control comes from.")}
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
        {(template || like) && <option value="">as in the {like ? "other job" : "template"}</option>}
        <option value="general">General topographic, in {unit === "m" ? "metres" : "feet and inches"}</option>
        {books.map((name) => (
          <option key={name} value={KEPT + name}>
            {name}, kept by the office
          </option>
        ))}
        <option value="empty">Empty: every code unknown</option>
      </select>
      {problem && (
        <p role="alert" className="mt-3 text-red">
          {problem}
        </p>
      )}
      <button
        className="button button-main mt-5"
        {...unless(busy ? "It is being made." : !name.trim() && "Give the job a name first.")}
      >
        Make the job
      </button>
      <p className="mt-3 text-soft">The next step is its first intake.</p>
    </form>
  );
}
