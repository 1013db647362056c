"use client";
/** A new job: from nothing, from a template, or with what another job of the same client has. */
import { useRouter } from "next/navigation";
import { useState } from "react";
import { UNIT_NAMES, type Unit } from "@bramble/core";
import type { JobListed } from "@bramble/db";
import { postJson } from "../../lib/client";
import { Choice, optionsOf } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";
import { unless } from "../../controls/unless";

/** Before the names of books that the office keeps. */
const KEPT = "kept: ";

export interface TemplateOffered {
  name: string;
  unit: Unit;
  order: string;
}

/** What is said of a job before it is made, and making it. */
function useNewJob() {
  const router = useRouter();
  const [template, setTemplate] = useState("");
  const [name, setName] = useState(""),
    [like, setLike] = useState<number | "">("");
  const [unit, setUnit] = useState<Unit>("m");
  const [order, setOrder] = useState("NE");
  const [book, setBook] = useState("general");
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  /** From a template, or from none. */
  const from = (t: TemplateOffered | undefined) => {
    setTemplate(t?.name ?? "");
    setBook(t ? "" : "general");
    if (!t) return;
    setUnit(t.unit);
    setOrder(t.order);
  };
  /** With what another job has, or from nothing. */
  const as = (other: JobListed | undefined) => {
    setLike(other?.id ?? "");
    setBook(other || template ? "" : "general");
    if (other) setUnit(other.unit);
  };
  const create = async () => {
    setBusy(true);
    try {
      const { id } = await postJson<{ id: number }>("/api/jobs", {
        name: name.trim(),
        unit,
        order,
        ...(book.startsWith(KEPT) ? { officeBook: book.slice(KEPT.length) } : book ? { book } : {}),
        ...(template ? { template } : {}),
        ...(like ? { like } : {}),
      });
      router.push(`/jobs/${id}/intake`);
    } catch (e) {
      setProblem((e as Error).message);
      setBusy(false);
    }
  };
  return {
    name,
    setName,
    template,
    like,
    unit,
    setUnit,
    order,
    setOrder,
    book,
    setBook,
    from,
    as,
    create,
    problem,
    busy,
  };
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
  const { name, setName, template, like, unit, setUnit, order, setOrder, book, setBook, from, as, ...making } =
      useNewJob(),
    { create, problem, busy } = making;
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
      <div className="mt-4 flex flex-col gap-3">
        <Typed id="job-name" label="Name" width="w-full" text={name} most={200} onType={setName} />
        {templates.length > 0 && (
          <Choice
            label="Template"
            width="w-full"
            value={template}
            onChange={(chosen) => from(templates.find((t) => t.name === chosen))}
            options={[["", "none"], ...templates.map((t) => [t.name, t.name] as const)]}
          />
        )}
        {jobs.length > 0 && (
          <Choice
            label="Control, code book and system from"
            width="w-full"
            value={like}
            onChange={(id) => as(jobs.find((j) => j.id === id))}
            options={[
              ["", "no other job"],
              ...jobs.map((j) => [j.id, j.client ? `${j.client}: ${j.name}` : j.name] as const),
            ]}
          />
        )}
        <Choice
          label="Length unit"
          width="w-full"
          value={unit}
          without={unless(like !== "" && "That of the job its control comes from.")}
          onChange={setUnit}
          options={optionsOf(UNIT_NAMES)}
        />
        <Choice
          label="Coordinate order"
          width="w-full"
          value={order}
          onChange={setOrder}
          options={[
            ["NE", "northing first"],
            ["EN", "easting first"],
          ]}
        />
        <Choice
          label="Code book"
          width="w-full"
          value={book}
          onChange={setBook}
          options={[
            ...(template || like ? [["", `as in the ${like ? "other job" : "template"}`] as const] : []),
            ["general", `General topographic, in ${unit === "m" ? "metres" : "feet and inches"}`],
            ...books.map((kept) => [KEPT + kept, `${kept}, kept by the office`] as const),
            ["empty", "Empty: every code unknown"],
          ]}
        />
      </div>
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
