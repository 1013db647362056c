"use client";
/** Handover: the files that leave, each with a look at what it will hold; what was made is kept with the job. */
import { HANDOVER_KINDS, newFile, wordsOfFile, type HandoverFile, type OneChange } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import type { MadeFile } from "@bramble/db";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { Bench } from "../Bench";
import { isUnderWay, MadeFilesTable } from "../made/MadeFiles";
import { useMadeFiles, type MadeFiles } from "../made/use-made-files";
import { HiddenLayers } from "./HiddenLayers";
import { OneFile } from "./OneFile";
import { unless } from "../../controls/unless";
import { Choice } from "../../controls/fields/Choice";

/** What most jobs hand over. */
const USUAL = HANDOVER_KINDS.filter((k) => k.usual).map((k) => k.title);

export function HandoverBench() {
  const { job, change, waiting, held } = useParts("job", "change", "waiting", "held");
  const [chosen, setChosen] = useKept("handover.chosen", ""),
    made = useMadeFiles();
  const file = job.handover.find((h) => h.file === chosen) ?? job.handover[0],
    wait = held ? "A rehearsal is not stored: take or drop it first." : waiting.length > 0 ? "Once all is saved." : "";
  const add = async (titles: readonly string[]) => {
    const files: HandoverFile[] = [];
    for (const title of titles)
      files.push(
        newFile(
          HANDOVER_KINDS.find((k) => k.title === title)!,
          [...job.handover, ...files],
        ),
      );
    const changes = files.map((f): OneChange => ({ type: "named", part: "handover", name: f.file, old: null, new: f }));
    const all = { type: "several" as const, text: `${plural(files.length, "file")} added to the handover`, changes };
    if (await change(changes.length === 1 ? changes[0]! : all)) setChosen(files[0]!.file);
  };
  return (
    <Bench
      title="Handover"
      about={job.handover.length ? plural(job.handover.length, "file") : undefined}
      actions={
        <Choice
          label="Add a file"
          named={false}
          low={false}
          width="w-36 font-medium"
          value=""
          onChange={(v) => void add([v])}
          ask="Add a file …"
          options={HANDOVER_KINDS.map((k) => [k.title, `${k.title}: ${k.about}`] as const)}
        />
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        <HiddenLayers />
        {job.handover.length === 0 ? (
          <div className="mt-2 max-w-prose">
            <p>
              Nothing leaves yet. Add the files that your client and the designer want; each is shown before it is made,
              read back before it leaves, and kept here with the state of the job that it is of.
            </p>
            <button className="button button-main mt-3" onClick={() => void add(USUAL)}>
              Add the usual files
            </button>
            <p className="mt-1.5 text-soft">{USUAL.join(", ")}</p>
          </div>
        ) : (
          <Files chosen={file} choose={setChosen} made={made} wait={wait} />
        )}
        {file && <OneFile key={file.file} file={file} renamed={setChosen} />}
        <MadeFilesTable made={made} what="handover" title="Files made" />
        <Recipe />
      </div>
    </Bench>
  );
}

function Files({
  chosen,
  choose,
  made,
  wait,
}: {
  chosen: HandoverFile | undefined;
  choose: (file: string) => void;
  made: MadeFiles;
  wait: string;
}) {
  const { job } = useParts("job");
  return (
    <table className="plain" aria-label="Files of the handover">
      <thead>
        <tr>
          <th>File</th>
          <th>What it is</th>
          <th>Last made</th>
          <th>
            <span className="sr-only">Make it</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {job.handover.map((h) => (
          <tr
            key={h.file}
            aria-selected={h.file === chosen?.file}
            className="cursor-pointer"
            onClick={() => choose(h.file)}
          >
            <td className="max-w-64 truncate">
              <button className="max-w-full truncate text-left font-medium" onClick={() => choose(h.file)}>
                {h.file}
              </button>
            </td>
            <td className="text-soft">{wordsOfFile(h)}</td>
            <td>
              <LastMade file={lastOf(h, made.files ?? [])} />
            </td>
            <td className="text-right">
              <button
                className="button button-plain h-6"
                aria-label={`Make ${h.file}`}
                title="Makes it of the job as it is stored now, keeps it here and saves it on this machine"
                {...unless(wait)}
                onClick={(event) => {
                  event.stopPropagation();
                  void made.orderAndSave({ what: "handover", name: h.file });
                }}
              >
                Make
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The latest that was made of a file, or the one that is under way. */
const lastOf = ({ file }: HandoverFile, files: readonly MadeFile[]) =>
  files.find(({ wanted: w, state }) => w.what === "handover" && state !== "failed" && w.name === file) ??
  files.find(({ wanted: w, state }) => w.what === "handover" && state === "made" && w.holds?.includes(file));

function LastMade({ file }: { file: MadeFile | undefined }) {
  const { version } = useParts("version");
  if (!file) return <span className="text-soft">never</span>;
  if (isUnderWay(file)) return <span className="text-soft">being made …</span>;
  const behind = version - (file.seq ?? 0);
  return behind > 0 ? (
    <span className="text-amber">{plural(behind, "entry", "entries")} ago</span>
  ) : (
    <span className="text-leaf">of the job as it is</span>
  );
}

function Recipe() {
  const { jobId } = useParts("jobId");
  return (
    <>
      <h2 className="heading mt-8">Recipe</h2>
      <p className="mt-1 text-soft">
        The whole job written down, from the bytes received to the files handed over.{" "}
        <code>./bramble run recipe.json --out DIR</code> makes the same without the application; with its files it
        becomes a job in another office.
      </p>
      <div className="mt-2 flex gap-1.5">
        <a className="button" href={`/api/jobs/${jobId}/recipe?with=files`} download>
          Save the recipe with its files
        </a>
        <a className="button" href={`/api/jobs/${jobId}/recipe`} download>
          Save the recipe alone
        </a>
      </div>
    </>
  );
}
