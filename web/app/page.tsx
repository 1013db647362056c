import { listJobs } from "@bramble/db";
import { JobList } from "../components/JobList";

export const dynamic = "force-dynamic";

export default async function HomePage() {
  return <JobList jobs={await listJobs()} />;
}
