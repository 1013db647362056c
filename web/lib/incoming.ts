/** Files that wait to be looked at, one after another, wherever they were dropped. */
import { refusal } from "@bramble/core";
import type { StoredIntake } from "@bramble/db";
import { openPlace } from "./navigate";
import { useJob } from "./store";

/** A file from the person's disk, or the bytes of an intake that is read again. */
export interface Incoming {
  name: string;
  size: number;
  bytes(): Promise<ArrayBuffer>;
  file?: File;
  again?: StoredIntake;
}

/** Under this name the files wait among what is in progress. */
export const WAITING = "intake.waiting";
/** The longest name that a file of the job may have. */
const LONGEST_NAME = 200;

export const waitingFiles = () => (useJob.getState().kept[WAITING] as readonly Incoming[] | undefined) ?? [];

/** Takes files to the look; those that cannot be taken are told, before a byte of them is read. */
export function offerFiles(files: readonly File[]): void {
  const { intakeLimit, keep, set } = useJob.getState();
  const why = (f: File) =>
    f.size > intakeLimit
      ? refusal("file-too-large", { file: f.name, bytes: f.size, limit: intakeLimit }).message
      : f.name.length > LONGEST_NAME
        ? `“${f.name.slice(0, 40)}…” has a name of ${f.name.length} letters; ${LONGEST_NAME} are the most. Rename it and take it again.`
        : undefined;
  const refused = files.flatMap((f) => why(f) ?? []),
    taken = files.filter((f) => !why(f));
  if (refused.length) set({ notice: { text: refused.join(" "), tone: "problem" } });
  if (taken.length === 0) return;
  if (refused.length === 0) set({ notice: undefined });
  const more = taken.map((file): Incoming => ({
    name: file.name,
    size: file.size,
    file,
    bytes: () => file.arrayBuffer(),
  }));
  keep(WAITING, [...waitingFiles(), ...more]);
  openPlace("intake");
}

export function lookAgain(k: StoredIntake, bytes: () => Promise<ArrayBuffer>): void {
  useJob.getState().keep(WAITING, [{ name: k.file, size: k.bytes, again: k, bytes }, ...waitingFiles()]);
}

/** The first of the waiting files is dealt with. */
export function nextFile(): void {
  const { keep } = useJob.getState();
  keep(WAITING, waitingFiles().slice(1));
  keep("intake.look", undefined);
}
