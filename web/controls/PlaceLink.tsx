"use client";
/** A link to a place of the open job. It asks the server for nothing: the place is there also while the server is not. */
import type { AnchorHTMLAttributes } from "react";
import { openPlace, pathOf } from "../lib/navigate";
import { useJob } from "../lib/store";

export function PlaceLink({ place, ...rest }: { place: string } & AnchorHTMLAttributes<HTMLAnchorElement>) {
  const jobId = useJob((s) => s.jobId);
  return (
    <a
      {...rest}
      href={pathOf(jobId, place)}
      onClick={(event) => {
        // Another window or tab is the browser's own affair.
        if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return;
        event.preventDefault();
        openPlace(place);
      }}
    />
  );
}
