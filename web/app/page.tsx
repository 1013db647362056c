import { listJobs, listOffice } from "@bramble/db";
import { JobList } from "../components/JobList";

export const dynamic = "force-dynamic";

export default async function HomePage() {
  const [jobs, templates] = await Promise.all([listJobs(), listOffice("template")]);
  return (
    <JobList
      jobs={jobs}
      templates={templates.map(({ name, body }) => ({ name, unit: body.unit, order: body.order }))}
    />
  );
}
