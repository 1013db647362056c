import { listJobs, listOffice, purgeRemoved } from "@bramble/db";
import { JobList } from "../components/jobs/JobList";

export const dynamic = "force-dynamic";

export default async function HomePage() {
  await purgeRemoved();
  const [jobs, templates, books] = await Promise.all([listJobs(), listOffice("template"), listOffice("book")]);
  return (
    <JobList
      jobs={jobs}
      templates={templates.map(({ name, body }) => ({ name, unit: body.unit, order: body.order }))}
      books={books.map(({ name }) => name)}
    />
  );
}
