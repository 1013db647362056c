import type { ReactNode } from "react";
import { Workspace } from "../../../components/Workspace";

export default async function JobLayout({ params, children }: { params: Promise<{ id: string }>; children: ReactNode }) {
  const { id } = await params;
  const known = /^\d{1,15}$/.test(id) ? Number(id) : 0;
  return (
    <>
      {/* The job's data is asked for while the page's own code is still on its way. */}
      {[`/api/jobs/${known}/points`, `/api/jobs/${known}`].map((href) => <link key={href} rel="preload" as="fetch" crossOrigin="anonymous" href={href} />)}
      <Workspace id={known}>{children}</Workspace>
    </>
  );
}
