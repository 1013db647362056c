import { copyJob, listJobs } from "@bramble/db";
import { madeBeside } from "../../../server/stored";
import { copyJobSchema, requestName } from "../../../server/edge";
import { intakeLimit, readBody, withBody } from "../../../server/body";
import { author, jsonOf, respond } from "../../../server/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request) {
  return respond(request, async () => Response.json(await listJobs()));
}

const LARGEST_FORM = 1e6;

/** A new job: as a form says in JSON, as a copy of another (`copy`), or of a package, whose bytes are then the body. */
export function POST(request: Request) {
  return respond(request, async () => {
    const name = requestName(request.headers.get("x-change"));
    if (request.headers.get("content-type")?.startsWith("application/octet-stream")) {
      const who = author(request);
      return withBody(request, "The package", intakeLimit(), (path) =>
        madeBeside("unpack", { author: who, name, path }, "Reading this package"),
      );
    }
    const form = jsonOf(await readBody(request, "The request", LARGEST_FORM));
    if (typeof form === "object" && form !== null && "copy" in form) {
      const { copy, name: called } = await copyJobSchema.validate(form, { strict: true });
      return Response.json({ id: await copyJob(copy, called, name) }, { status: 201 });
    }
    // Only a job made like another has an entry of the ledger from the first.
    const who = typeof form === "object" && form !== null && "like" in form ? author(request) : "";
    return madeBeside("create", { author: who, name, form }, "Making this job");
  });
}
