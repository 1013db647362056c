import { requestName } from "../../../server/edge";
import { respond } from "../../../server/respond";
import { uploads } from "../../../server/uploads";

export const dynamic = "force-dynamic";

/** How many files wait in line before the one of a request, by `?name=`; null where it does not wait. */
export function GET(request: Request) {
  return respond(request, async () => {
    const name = requestName(new URL(request.url).searchParams.get("name"));
    return Response.json({ before: uploads().before(name) ?? null });
  });
}
