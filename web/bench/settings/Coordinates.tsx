"use client";
import { useRef, useState } from "react";
import { DEFAULT_CURVATURE, settingOf } from "@bramble/core";
import { postFileTo } from "../../lib/client";
import { useParts } from "../../lib/store";
import { Failed } from "../Bench";
import { NumberField, TextField } from "../../controls/fields/fields";
import { Section, type SetSetting } from "./fields";
import { Tick } from "../../controls/fields/Tick";
import { FileInput } from "../../controls/FileInput";

/** Coordinate system, geoid, scale factor, curvature. */
export function Coordinates({ set }: { set: SetSetting }) {
  const { job, jobId } = useParts("job", "jobId");
  const [problem, setProblem] = useState(""),
    grid = useRef<HTMLInputElement>(null);
  const curvature = job.curvature === false ? false : { ...DEFAULT_CURVATURE, ...job.curvature };
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      await postFileTo(`/api/jobs/${jobId}/files?name=${encodeURIComponent(file.name)}`, file);
      setProblem("");
      set("geoid", file.name);
    } catch (e) {
      setProblem((e as Error).message);
    }
  };
  return (
    <Section
      title="Coordinates"
      holds={["system", "geoid", "scaleFactor", "curvature"]}
      about={job.system ? "" : "a plain local grid"}
    >
      <div className="flex flex-wrap items-end gap-3">
        <TextField
          label="Coordinate system"
          value={job.system ?? ""}
          placeholder="EPSG:25832"
          pattern={/^EPSG:\d+$/}
          width="w-32"
          onChange={(v) => set("system", v === "" ? null : v)}
        />
        <div>
          <span className="label block">Geoid grid (GTX)</span>
          <span className="mt-0.5 flex h-7 items-center gap-2">
            {job.geoid && <span className="max-w-40 truncate">{job.geoid}</span>}
            <FileInput input={grid} label="Geoid grid" accept=".gtx" take={([file]) => void take(file)} />
            <button className="button" onClick={() => grid.current?.click()}>
              {job.geoid ? "Another" : "Choose a grid"}
            </button>
            {job.geoid && (
              <button className="button button-plain" onClick={() => set("geoid", null)}>
                None
              </button>
            )}
          </span>
        </div>
        <NumberField
          label="Scale factor of distances"
          value={settingOf(job, "scaleFactor")}
          allowed={(x) => x >= 0.5 && x <= 2}
          hint="A factor near 1, such as 0.9996."
          onChange={(x) => set("scaleFactor", x)}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <Tick
          words="Correct levels for the earth's curvature"
          on={curvature !== false}
          set={(on) => set("curvature", on ? { ...DEFAULT_CURVATURE } : false)}
        />
        {curvature !== false && (
          <>
            <NumberField
              label="Refraction coefficient"
              value={curvature.k}
              allowed={(x) => Math.abs(x) <= 5}
              hint="0.13 is usual; 0 for none."
              onChange={(k) => set("curvature", { ...curvature, k })}
            />
            <NumberField
              label="Earth radius m"
              value={curvature.radius}
              allowed={(x) => x > 1e6 && x < 1e8}
              hint="A radius in metres, such as 6371000."
              onChange={(radius) => set("curvature", { ...curvature, radius })}
            />
          </>
        )}
      </div>
      {problem && <Failed>{problem}</Failed>}
    </Section>
  );
}
