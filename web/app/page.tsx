import { listJobs, listOffice, purgeRemoved } from "@bramble/db";
import { Away } from "../components/Away";
import { JobList } from "../components/jobs/JobList";
import { asRefusal } from "../server/refusals";

export const dynamic = "force-dynamic";

export default async function HomePage() {
  const read = await readAll();
  if (!Array.isArray(read)) return <Away why={read.away} />;
  const [jobs, templates, books] = read;
  return (
    <JobList
      jobs={jobs}
      templates={templates.map(({ name, body }) => ({ name, unit: body.unit, order: body.order }))}
      books={books.map(({ name }) => name)}
    />
  );
}

async function readAll() {
  try {
    await purgeRemoved();
    return await Promise.all([listJobs(), listOffice("template"), listOffice("book")]);
  } catch (e) {
    const why = asRefusal(e);
    if (!why) throw e;
    return { away: why.message };
  }
}
