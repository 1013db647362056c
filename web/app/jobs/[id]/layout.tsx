import type { ReactNode } from "react";
import { Workspace } from "../../../components/Workspace";

export default async function JobLayout({ params, children }: { params: Promise<{ id: string }>; children: ReactNode }) {
  const { id } = await params;
  return <Workspace id={/^\d{1,15}$/.test(id) ? Number(id) : 0}>{children}</Workspace>;
}
