import { notFound } from "next/navigation";
import { ALL_PLACES } from "../../../../lib/places";

/** The workspace of the layout shows the place by its path; here is only said which paths there are. */
export default async function PlacePage({ params }: { params: Promise<{ place: string }> }) {
  if (!(ALL_PLACES as readonly string[]).includes((await params).place)) notFound();
  return null;
}
