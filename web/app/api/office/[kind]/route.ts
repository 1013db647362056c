import { forgetInOffice, keepInOffice, listOffice } from "@bramble/db";
import { officeKind, readKept } from "../../../../server/edge";
import { author, readJson, respond } from "../../../../server/respond";

export const dynamic = "force-dynamic";
type Params = { params: Promise<{ kind: string }> };

/** What the office keeps of one kind: templates of jobs, layouts of files. */
export function GET(request: Request, { params }: Params) {
  return respond(request, async () => Response.json(await listOffice(officeKind((await params).kind))));
}

export function POST(request: Request, { params }: Params) {
  return respond(request, async () => {
    author(request);
    const kind = officeKind((await params).kind);
    const { name, body, from } = await readKept(kind, await readJson(request)),
      geoid = "geoid" in body && from !== undefined ? body.geoid : undefined;
    await keepInOffice(kind, name, body, geoid === undefined ? undefined : { job: from!, file: geoid });
    return Response.json({ name }, { status: 201 });
  });
}

export function DELETE(request: Request, { params }: Params) {
  return respond(request, async () => {
    author(request);
    await forgetInOffice(officeKind((await params).kind), new URL(request.url).searchParams.get("name") ?? "");
    return Response.json({});
  });
}
