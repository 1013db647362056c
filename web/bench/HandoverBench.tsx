"use client";
/** Handover: the files that leave, each with a look at what it will hold, and the job as a recipe. */
import { useEffect, useState } from "react";
import { SetChoice } from "./sets/SetChoice";
import { DEFAULT_COLUMNS, DEFAULT_DECIMALS, type HandoverColumn, type HandoverFile } from "@bramble/core";
import { livingCount } from "@bramble/core/points/table";
import { plainName } from "../lib/plain-name";
import { useParts } from "../lib/store";
import { useKept } from "../lib/use-kept";
import { Bench, Failed } from "./Bench";

const CSV_COLUMNS: HandoverColumn[] = [
  "number",
  "northing",
  "easting",
  "elevation",
  "code",
  "description",
  "note",
  "kind",
  "intake",
  "precision",
];

export function HandoverBench() {
  const { job, jobId, change } = useParts("job", "jobId", "change");
  const [chosen, setChosen] = useKept("handover.chosen", "");
  const file = job.handover.find((h) => h.file === chosen) ?? job.handover[0];
  const add = async (format: "csv" | "dxf") => {
    const base = plainName(job.name);
    let name = `${base}.${format}`;
    for (let k = 2; job.handover.some((h) => h.file === name); k++) name = `${base}-${k}.${format}`;
    const body: HandoverFile =
      format === "csv"
        ? { file: name, format, columns: DEFAULT_COLUMNS, decimals: DEFAULT_DECIMALS, points: "*", header: true }
        : { file: name, format, points: "*" };
    if (await change({ type: "named", part: "handover", name, old: null, new: body })) setChosen(name);
  };
  return (
    <Bench
      title="Handover"
      about={job.handover.length ? undefined : "No file yet"}
      actions={
        <div className="flex gap-1.5">
          <button className="button" onClick={() => void add("csv")}>
            Add points as text
          </button>
          <button className="button" onClick={() => void add("dxf")}>
            Add a DXF drawing
          </button>
        </div>
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {job.handover.length > 0 && (
          <table className="plain">
            <thead>
              <tr>
                <th>File</th>
                <th>Format</th>
                <th>Points</th>
                <th className="w-24">
                  <span className="sr-only">What may be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {job.handover.map((h) => (
                <tr
                  key={h.file}
                  aria-selected={h.file === file?.file}
                  className="cursor-pointer"
                  onClick={() => setChosen(h.file)}
                >
                  <td>
                    <button className="text-left font-medium" onClick={() => setChosen(h.file)}>
                      {h.file}
                    </button>
                  </td>
                  <td className="text-soft">
                    {h.format === "csv" ? `points as text${h.guard ? ", guarded" : ""}` : "DXF drawing"}
                  </td>
                  <td className="text-soft">{(h.points ?? "*") === "*" ? "all" : h.points}</td>
                  <td>
                    <a
                      className="button button-plain"
                      href={`/api/jobs/${jobId}/handover?file=${encodeURIComponent(h.file)}`}
                      download
                    >
                      Save
                    </a>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {file && <OneFile key={file.file} file={file} />}
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
      </div>
    </Bench>
  );
}

function OneFile({ file }: { file: HandoverFile }) {
  const { job, jobId, change, version, view, saving } = useParts("job", "jobId", "change", "version", "view", "saving");
  const [preview, setPreview] = useState("");
  const [problem, setProblem] = useState("");
  const edit = (part: Partial<HandoverFile>) =>
    void change({ type: "named", part: "handover", name: file.file, old: file, new: { ...file, ...part } });
  // The look is the file itself, as the server would hand it over now.
  useEffect(() => {
    if (file.format !== "csv" || saving) return;
    const stop = new AbortController();
    void (async () => {
      try {
        const response = await fetch(`/api/jobs/${jobId}/handover?file=${encodeURIComponent(file.file)}`, {
          signal: stop.signal,
        });
        const text = await response.text();
        if (!response.ok) return setProblem((JSON.parse(text) as { message: string }).message);
        setProblem("");
        setPreview(text.split("\n", 9).slice(0, 8).join("\n"));
      } catch (e) {
        if ((e as Error).name !== "AbortError") setProblem("The server does not answer.");
      }
    })();
    return () => stop.abort();
  }, [file, jobId, version, saving]);
  const columns = file.columns ?? DEFAULT_COLUMNS;
  const flip = (c: HandoverColumn) =>
    edit({ columns: columns.includes(c) ? columns.filter((x) => x !== c) : [...columns, c] });
  return (
    <section className="mt-6" aria-label={file.file}>
      <div className="flex items-baseline gap-3">
        <h2 className="heading">{file.file}</h2>
        <span className="flex-1" />
        <button
          className="button button-plain"
          onClick={() => void change({ type: "named", part: "handover", name: file.file, old: file, new: null })}
        >
          Remove
        </button>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <SetChoice
          label="Points"
          value={file.points ?? "*"}
          fixed={[
            ["*", "all"],
            ["*ground", "ground points"],
          ]}
          choose={(points) => edit({ points })}
        />
        {file.format === "csv" && (
          <>
            <label className="block">
              <span className="label block">Decimals</span>
              <select
                className="field mt-0.5"
                value={file.decimals ?? DEFAULT_DECIMALS}
                onChange={(event) => edit({ decimals: Number(event.target.value) })}
              >
                {[0, 1, 2, 3, 4, 5, 6].map((k) => (
                  <option key={k}>{k}</option>
                ))}
              </select>
            </label>
            <label className="block">
              <span className="label block">Decimal sign</span>
              <select
                className="field mt-0.5"
                value={file.decimal ?? "."}
                onChange={(event) =>
                  // A comma that parts columns as well would put every number in quotes.
                  edit(
                    event.target.value === ","
                      ? { decimal: ",", ...((file.delimiter ?? ",") === "," ? { delimiter: ";" } : {}) }
                      : { decimal: "." },
                  )
                }
              >
                <option value=".">point</option>
                <option value=",">comma</option>
              </select>
            </label>
            <label className="block">
              <span className="label block">Delimiter</span>
              <select
                className="field mt-0.5"
                value={file.delimiter ?? ","}
                onChange={(event) => edit({ delimiter: event.target.value })}
              >
                <option value=",">comma</option>
                <option value=";">semicolon</option>
                <option value={"\t"}>tab</option>
                <option value=" ">blank</option>
              </select>
            </label>
            <label className="flex h-7 items-center gap-2">
              <input
                type="checkbox"
                checked={file.header ?? true}
                onChange={(event) => edit({ header: event.target.checked })}
              />
              Header row
            </label>
            <label
              className="flex h-7 items-center gap-2"
              title="Texts that begin with =, +, - or @ and are no numbers are written behind an apostrophe"
            >
              <input
                type="checkbox"
                checked={file.guard ?? false}
                onChange={(event) => edit({ guard: event.target.checked || undefined })}
              />
              Guard texts that a spreadsheet would compute
            </label>
          </>
        )}
      </div>
      {file.format === "csv" && (
        <>
          <fieldset className="mt-3">
            <legend className="label">Columns, in this order: {columns.join(", ")}</legend>
            <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
              {[...CSV_COLUMNS, ...job.points.attributes.map((a): HandoverColumn => `attr:${a.name}`)].map((c) => (
                <label key={c} className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={columns.includes(c)}
                    disabled={columns.length === 1 && columns.includes(c)}
                    onChange={() => flip(c)}
                  />
                  {c.replace("attr:", "attribute ")}
                </label>
              ))}
            </div>
          </fieldset>
          {problem ? (
            <Failed>{problem}</Failed>
          ) : (
            <pre
              className="mt-3 overflow-x-auto border border-rule bg-sheet p-3 text-[12px] leading-5 tabular-nums"
              aria-label="First rows of the file"
            >
              {preview || "…"}
            </pre>
          )}
        </>
      )}
      {file.format === "dxf" && (
        <table className="plain mt-3">
          <thead>
            <tr>
              <th>What the drawing holds</th>
              <th className="num">Count</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Lines as 3D polylines, on the layers of the code book</td>
              <td className="num">{view.lines.filter((l) => l.length > 0).length}</td>
            </tr>
            <tr>
              <td>Points with number and description</td>
              <td className="num">{(file.points ?? "*") === "*" ? livingCount(job.points) : file.points}</td>
            </tr>
            {view.contours.map((c) => (
              <tr key={c.name}>
                <td>Contours of “{c.name}” with labels</td>
                <td className="num">{c.value ? c.value.contours.level.length : c.failure?.message}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
