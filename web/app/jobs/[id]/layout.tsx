import type { ReactNode } from "react";
import { Workspace } from "../../../components/Workspace";

export default async function JobLayout({
  params,
  children,
}: {
  params: Promise<{ id: string }>;
  children: ReactNode;
}) {
  const { id } = await params;
  const known = /^\d{1,15}$/.test(id) ? Number(id) : 0;
  return (
    <>
      {/* The job's data is asked for while the page's own code is still on its way. */}
      <link rel="preload" as="fetch" crossOrigin="anonymous" href={`/api/jobs/${known}/state`} />
      <Workspace id={known}>{children}</Workspace>
    </>
  );
}
