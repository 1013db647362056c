"use client";
/** The jobs of the office: found, opened, copied, put away, removed and brought back; and a new one. */
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { UNIT_NAMES } from "@bramble/core";
import type { JobListed } from "@bramble/db";
import { setAuthor, useAuthor } from "../../lib/author";
import { patchJson, postJson } from "../../lib/client";
import { grouped, when } from "../../lib/units-shown";
import { AskAuthor } from "../AskAuthor";
import { PLACE_NAMES, PLACE_WORK, PLACES } from "../../lib/places";
import { ThemeSwitch } from "../ThemeSwitch";
import { TakePackage } from "./TakePackage";
import { NewJob, type TemplateOffered } from "./NewJob";
import { Typed } from "../../controls/fields/Typed";

type Shelf = "open" | "archived" | "removed";
const SHELVES: [Shelf, string][] = [
  ["open", "At work"],
  ["archived", "Archived"],
  ["removed", "Removed"],
];
const shelfOf = (j: JobListed): Shelf => (j.removed ? "removed" : j.archived ? "archived" : "open");

export function JobList({
  jobs,
  templates,
  books,
}: {
  jobs: JobListed[];
  templates: TemplateOffered[];
  books: string[];
}) {
  const author = useAuthor();
  if (author === undefined) return null;
  if (author === "") return <AskAuthor />;
  return (
    <main className="relative mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)_300px] gap-10 px-8 py-10 max-[860px]:grid-cols-1">
      <a
        href="#job-name"
        className="button absolute top-3 left-8 z-10 not-focus:sr-only"
        onClick={(event) => {
          event.preventDefault();
          document.getElementById("job-name")?.focus();
        }}
      >
        To the new job
      </a>
      <section aria-labelledby="jobs">
        <div className="flex items-center">
          <p className="flex-1 font-serif text-[15px] text-bramble italic">Rough Bramble</p>
          <ThemeSwitch />
        </div>
        <h1 id="jobs" className="mt-1 font-serif text-4xl font-semibold">
          Jobs
        </h1>
        <p className="mt-2 text-soft">
          {jobs.length === 0 ? "No job yet. Make the first one." : "Open a job, or make a new one."} Changes are written
          in the ledger as {author}.{" "}
          <button className="underline hover:text-bramble" onClick={() => setAuthor("")}>
            Someone else?
          </button>
        </p>
        {jobs.length > 0 && <Shelves jobs={jobs} />}
        <PathOfAJob />
      </section>
      <div className="self-start border-l border-rule pl-8">
        <NewJob templates={templates} books={books} jobs={jobs.filter((j) => !j.removed)} />
        <TakePackage />
      </div>
    </main>
  );
}

/** The jobs of one shelf, client by client. */
function Shelves({ jobs }: { jobs: readonly JobListed[] }) {
  const router = useRouter();
  const [search, setSearch] = useState(""),
    [shelf, setShelf] = useState<Shelf>("open"),
    [problem, setProblem] = useState("");
  const wanted = search.trim().toLowerCase();
  const list = jobs.filter(
    (j) => shelfOf(j) === shelf && (!wanted || `${j.name} ${j.client ?? ""}`.toLowerCase().includes(wanted)),
  );
  const clients = [...new Set(list.map((j) => j.client ?? ""))].sort((a, b) =>
    a === "" ? 1 : b === "" ? -1 : a < b ? -1 : 1,
  );
  const act = async (work: () => Promise<unknown>) => {
    try {
      await work();
      setProblem("");
      router.refresh();
    } catch (e) {
      setProblem((e as Error).message);
    }
  };
  return (
    <>
      <div className="mt-5 flex flex-wrap items-center gap-3">
        <Typed
          label="Find a job"
          named={false}
          text={search}
          onType={setSearch}
          className="field w-56"
          placeholder="Name or client"
        />
        <div role="group" aria-label="Which jobs" className="flex gap-1">
          {SHELVES.map(([key, name]) => (
            <button
              key={key}
              className={`button h-7 px-2 ${shelf === key ? "border-bramble text-bramble" : ""}`}
              aria-pressed={shelf === key}
              onClick={() => setShelf(key)}
            >
              {name} {grouped(jobs.filter((j) => shelfOf(j) === key).length)}
            </button>
          ))}
        </div>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-red">
          {problem}
        </p>
      )}
      {shelf === "removed" && list.length > 0 && (
        <p className="mt-3 text-soft">A removed job can be brought back for 30 days; then it is gone.</p>
      )}
      {list.length === 0 ? (
        <p className="mt-4 text-soft">
          {wanted ? `No job here is called “${search.trim()}”.` : "No job is on this shelf."}
        </p>
      ) : (
        clients.map((client) => (
          <section key={client} aria-label={client || "Without a client"} className="mt-4">
            {(clients.length > 1 || client) && <h2 className="label">{client || "Without a client"}</h2>}
            <JobsTable jobs={list.filter((j) => (j.client ?? "") === client)} act={act} />
          </section>
        ))
      )}
    </>
  );
}

function JobsTable({ jobs, act }: { jobs: readonly JobListed[]; act: Act }) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>Name</th>
          <th className="num w-20">Points</th>
          <th className="num w-16">Intakes</th>
          <th className="w-30">Unit</th>
          <th className="w-40">Last change</th>
          <th className="w-40">
            <span className="sr-only">What may be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {jobs.map((j) => (
          <JobRow key={j.id} job={j} act={act} />
        ))}
      </tbody>
    </table>
  );
}

function PathOfAJob() {
  return (
    <section aria-labelledby="path" className="mt-12">
      <h2 id="path" className="heading">
        The path of a job
      </h2>
      <ol className="rows mt-2">
        {PLACES.map((p, k) => (
          <li key={p} className="grid min-h-9 grid-cols-[28px_96px_1fr] items-baseline border-b border-rule-soft py-2">
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
  );
}

/** Does something to a job, and says why where it cannot be. */
type Act = (work: () => Promise<unknown>) => Promise<void>;

function JobRow({ job: j, act }: { job: JobListed; act: Act }) {
  const url = `/api/jobs/${j.id}`;
  const button = (name: string, work: () => Promise<unknown>) => (
    <button className="button button-plain h-6 px-1" aria-label={`${name} ${j.name}`} onClick={() => void act(work)}>
      {name}
    </button>
  );
  return (
    <tr className="hover:bg-bench">
      <td className="min-w-44">
        {j.removed ? (
          <span className="text-soft">{j.name}</span>
        ) : (
          // Fetched when one goes there: of a hundred jobs all at once would keep the server from what is asked of it.
          <Link href={`/jobs/${j.id}/points`} prefetch={false} className="font-medium hover:text-bramble">
            {j.name}
          </Link>
        )}
      </td>
      <td className="num">{grouped(j.points)}</td>
      <td className="num">{j.intakes}</td>
      <td>{UNIT_NAMES[j.unit]}</td>
      <td className="text-soft" suppressHydrationWarning>
        {j.changed ? `${when(j.changed)}, ${j.author}` : "none yet"}
      </td>
      <td className="text-right whitespace-nowrap">
        {j.removed ? (
          button("Bring back", () => patchJson(url, { removed: false }))
        ) : (
          <>
            {button("Copy", () => postJson("/api/jobs", { copy: j.id, name: `${j.name}, copy` }))}
            {button(j.archived ? "Take out" : "Archive", () => patchJson(url, { archived: !j.archived }))}
            {button("Remove", () => patchJson(url, { removed: true }))}
          </>
        )}
      </td>
    </tr>
  );
}
