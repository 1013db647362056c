"use client";
/** What is in the form of courses: there again after a visit to another place. */
import { useMemo } from "react";
import { useParts } from "../../../lib/store";
import { useKept } from "../../../lib/use-kept";
import { BLANK, readDraft, type CoursesDraft } from "./draft";

export function useCourses() {
  const { job } = useParts("job"),
    [begun, setBegun] = useKept<CoursesDraft | undefined>("lines.courses", undefined),
    draft = begun ?? BLANK;
  const read = useMemo(() => readDraft(draft, job), [draft, job]);
  return {
    draft,
    read,
    put: (part: Partial<CoursesDraft>) => setBegun((now) => ({ ...(now ?? BLANK), ...part })),
    forget: () => setBegun(undefined),
  };
}
