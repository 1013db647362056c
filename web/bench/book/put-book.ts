/** The whole code book at once. */
import type { CodeBook } from "@bramble/core";
import { useJob } from "../../lib/store";

/** Stores a whole other book; one change that can be undone. */
export function putBook(book: CodeBook): boolean {
  const { job, change } = useJob.getState();
  return change({ type: "setting", field: "book", old: job.book, new: book });
}
