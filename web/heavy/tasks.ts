/** What takes long or much memory, by name: each is carried out in a process of its own, never in the server's. */
import fs from "node:fs";
import { compareStates, kindOfFile, refusal, type IntakeOptions, type RecipeIntake } from "@bramble/core";
import { readGeoid } from "@bramble/core/intake/geoid";
import { pack } from "@bramble/core/math/pack";
import { encodeTable } from "@bramble/core/points/columns";
import {
  getPool,
  intakeBytes,
  ledgerEntry,
  ledgerOfPoint,
  keepJobFile,
  listLedger,
  loadDelivered,
  loadJob,
  loadPoints,
  readIntakeAgain,
  reading,
  redoLast,
  rehearsed,
  statesBetween,
  stepOne,
  storeChange,
  takeIntake,
  undoLast,
  writing,
  type StatesBetween,
} from "@bramble/db";
import { readChange, readIntakeOptions } from "../server/edge";
import type { JobCompared } from "../sent/job-compared";
import type { JobSent } from "../sent/job-sent";
import { jsonOf } from "../server/respond";
import type { Made } from "./child";
import { leave } from "./leave";
import { ledgerText } from "./ledger-text";
import { makeFile, type FileOrder } from "./make-file";
import { makeJob } from "./new-job";
import { loadPackage, takePackage } from "./package";

const made = <H extends object>(head: H, bytes: Uint8Array): Made<H> => ({ head, bytes });
const utf8 = (text: string) => new TextEncoder().encode(text);
/** An answer as JSON: the server hands it on as it is. */
const told = (answer: unknown) => made({}, utf8(JSON.stringify(answer)));

/** Who asks for something to be stored: `name` is the request's, so that one sent twice is stored once. */
interface Asked {
  job: number;
  author: string;
  name: string;
}

/** Two states side by side, for a window. */
const compared = ({ stops, entries }: StatesBetween): JobCompared => ({
  from: stops[0]!.seq,
  to: stops.at(-1)!.seq,
  ...compareStates(stops, entries),
  entries: entries.map(({ seq, author, text }) => ({ seq, author, text })),
});

export const TASKS = {
  /** All that a window needs of a job, of one version, packed. */
  async state({ job: id, intakeLimit }: { job: number; intakeLimit: number }) {
    return reading(async (client) => {
      const job = await loadJob(client, id);
      const sent: JobSent = {
        ...job,
        points: await loadPoints(client, id),
        delivered: await loadDelivered(client, job.intakes),
        ledger: await listLedger(id, 200, undefined, client),
        intakeLimit,
      };
      return made({ version: job.version }, pack(sent));
    });
  },

  /** What became of the job between two entries of its ledger; to what it is now where the later is not given. */
  async compare({ job: id, from, to }: { job: number; from: number; to?: number }) {
    const { version } = await loadJob(getPool(), id);
    return told(compared(await statesBetween(id, "a comparison of states", from, to ?? version)));
  },

  /** The points in binary columns. */
  async points({ job }: { job: number }) {
    return reading(async (client) => {
      const { rows } = await client.query("SELECT version FROM jobs WHERE id = $1", [job]);
      return made(
        { version: (rows[0]?.version ?? 0) as number },
        new Uint8Array(encodeTable(await loadPoints(client, job))),
      );
    });
  },

  /** One handover file, made from the stored state by the same chain as on the screen. */
  async handover({ job, file: name }: { job: number; file: string }) {
    const { file, made: leaving } = await leave(job, name, "a look at a file");
    return made({ file: leaving.told.file, type: kindOfFile(file).type }, leaving.bytes);
  },

  /** The job as a recipe, alone or with the files of its intakes in one archive. */
  async recipe({ job, withFiles }: { job: number; withFiles: boolean }) {
    return made({}, await loadPackage(job, withFiles));
  },

  /** The whole ledger as a text, oldest first. */
  async ledger({ job: id }: { job: number }) {
    return made({}, utf8((await ledgerText(id)).text));
  },

  /** The beginning of what one entry did. */
  async entry({ job, seq, most }: { job: number; seq: number; most: number }) {
    return told(await ledgerEntry(job, seq, most));
  },

  /** The entries that did something to a point. */
  async story({ job, point }: { job: number; point: number }) {
    return told(await ledgerOfPoint(job, point));
  },

  /** The file of an intake as it came. */
  async intake({ job, key }: { job: number; key: string }) {
    const { file, bytes } = await intakeBytes(getPool(), job, key);
    return made({ file }, bytes);
  },

  /** A file that the settings may name, as it came. */
  async file({ job, name }: { job: number; name: string }) {
    const { rows } = await getPool().query("SELECT bytes FROM job_files WHERE job_id = $1 AND name = $2", [job, name]);
    if (!rows[0])
      throw refusal("file-geoid", { file: name, why: "its bytes are not in the job; choose it again in the settings" });
    return made({}, rows[0].bytes as Uint8Array);
  },

  /** Keeps a file that the settings may name; refused when it is no grid. */
  async keepFile({ job, author, file, path }: Omit<Asked, "name"> & { file: string; path: string }) {
    const bytes = fs.readFileSync(path);
    if (bytes.length === 0) throw refusal("file-empty", { file });
    readGeoid(file, bytes);
    await writing(job, author, (client) => keepJobFile(client, job, file, bytes));
    return told({ name: file });
  },

  /** A change too large to be looked through beside others. */
  async change({ job, author, name, path }: Asked & { path: string }) {
    return told(await storeChange(job, author, await readChange(jsonOf(fs.readFileSync(path))), name));
  },

  async step({ job, author, name, kind, entry, delivery }: Asked & StepAsked) {
    return told(
      entry === undefined
        ? await (kind === "undo" ? undoLast : redoLast)(job, author, delivery, name)
        : await stepOne(job, author, kind, entry, delivery, name),
    );
  },

  /** Takes a delivery in: the file has `head` bytes of JSON that say how to read it, then the delivery as it came. */
  async take({ job, author, name, path, head }: Asked & { path: string; head: number }) {
    const body = fs.readFileSync(path),
      options = await readIntakeOptions(jsonOf(body.subarray(0, head)));
    const { entry, info } = await takeIntake(
      job,
      author,
      options as Omit<RecipeIntake, "id">,
      body.subarray(head),
      name,
    );
    return told({ entry, info });
  },

  /** What would become of the job if a delivery were read in another way. */
  async rehearseReading({ job, author, key, options }: Omit<Asked, "name"> & { key: string; options: IntakeOptions }) {
    return told(compared(await rehearsed(job, author, () => readIntakeAgain(job, author, key, options))));
  },

  async readAgain({ job, author, name, key, options }: Asked & { key: string; options: IntakeOptions }) {
    return told(await readIntakeAgain(job, author, key, options, name));
  },

  /** A file that the queue is to make; it is kept with the job. */
  async makeFile(order: FileOrder) {
    await makeFile(order);
    return told({});
  },

  /** A new job as the form says it. */
  async create({ author, name, form }: Omit<Asked, "job"> & { form: unknown }) {
    return told({ id: await makeJob(form, author, name) });
  },

  /** A package, as another office saved it, becomes a new job. */
  async unpack({ author, name, path }: Omit<Asked, "job"> & { path: string }) {
    return told({ id: await takePackage(fs.readFileSync(path), author, name) });
  },
} satisfies Record<string, (asked: never) => Promise<Made>>;

export interface StepAsked {
  kind: "undo" | "redo";
  /** The entry that it is about; else the person's last. */
  entry?: number;
  delivery: boolean;
}

export type TaskName = keyof typeof TASKS;
export type AskedOf<T extends TaskName> = Parameters<(typeof TASKS)[T]>[0];
export type HeadOf<T extends TaskName> = Awaited<ReturnType<(typeof TASKS)[T]>>["head"];
