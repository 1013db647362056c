/** Going from place to place in the open job, without asking the server. */
import { useJob } from "./store";

export const pathOf = (jobId: number, place: string) => `/jobs/${jobId}/${place}`;

export function openPlace(place: string): void {
  const path = pathOf(useJob.getState().jobId, place);
  // Going where one is would only lengthen the way back.
  if (window.location.pathname !== path) window.history.pushState(null, "", path);
}
