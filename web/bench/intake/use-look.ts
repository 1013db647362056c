"use client";
/** The look's worker: started for one file, asked again at every change of how to read it. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { IntakeOptions, Look, LookJob } from "@bramble/core";
import type { KnownLayout } from "@bramble/core/intake/recognise";
import { getBytes, getJson } from "../../lib/client";
import type { FromLook, ToLook } from "../../workers/look.worker";

export interface Looked {
  look: Look;
  refusedText: Map<number, string>;
  likeness: string;
  milliseconds: number;
  /** What it was asked of. */
  of: Asked;
}

interface Asked {
  job: LookJob;
  given: IntakeOptions;
}

export interface FileToLook {
  name: string;
  bytes(): Promise<ArrayBuffer>;
}

/** `recognised` is called once, with the kept layout that fits the file, before the first look. */
export function useLook(
  file: FileToLook,
  job: LookJob & { geoid?: string },
  jobId: number,
  given: IntakeOptions,
  recognised: (k: KnownLayout) => void,
) {
  const [looked, setLooked] = useState<Looked>();
  const [problem, setProblem] = useState("");
  const [progress, setProgress] = useState<number>();
  const [ready, setReady] = useState(false);
  const worker = useRef<Worker>(undefined),
    serial = useRef(0),
    asked = useRef<Asked>({ job, given });
  const tell = (message: ToLook) => worker.current?.postMessage(message);
  const onRecognised = useRef(recognised);
  onRecognised.current = recognised;

  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
  }, []);

  useEffect(() => {
    const w = (worker.current = new Worker(new URL("../../workers/look.worker.ts", import.meta.url), {
      type: "module",
    }));
    w.onmessage = ({ data }: MessageEvent<FromLook>) => {
      if (data.type === "opened") {
        if (data.recognised) onRecognised.current(data.recognised);
        setReady(true);
      } else if (data.serial !== serial.current) return;
      else if (data.type === "progress") setProgress(data.fraction);
      else {
        setProgress(undefined);
        setProblem(data.look.problem ?? "");
        setLooked({
          look: data.look,
          refusedText: new Map(data.refusedText),
          likeness: data.likeness,
          milliseconds: data.milliseconds,
          of: asked.current,
        });
      }
    };
    w.onerror = () => setProblem("The file could not be read through. Take another one.");
    const open = async () => {
      try {
        const [bytes, known] = await Promise.all([
          file.bytes(),
          getJson<{ name: string; body: Omit<KnownLayout, "name"> }[]>("/api/office/layout").catch(() => []),
        ]);
        w.postMessage(
          {
            type: "open",
            file: file.name,
            bytes,
            known: known.map((k) => ({ ...k.body, name: k.name })),
          } satisfies ToLook,
          [bytes],
        );
      } catch {
        setProblem(`“${file.name}” cannot be opened. Choose it again.`);
      }
    };
    void open();
    return stop;
    // One worker for one file: its parent makes this anew for another one.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  useEffect(() => {
    if (!ready) return;
    const ask = async () => {
      const mine = ++serial.current;
      asked.current = { job, given };
      // The geoid goes along where the settings name one; without it the look says that heights stand as they are.
      const geoid = job.geoid
        ? await getBytes(`/api/jobs/${jobId}/files?name=${encodeURIComponent(job.geoid)}`).catch(() => undefined)
        : undefined;
      if (mine !== serial.current) return;
      tell({
        type: "job",
        job: lookJob(job),
        ...(geoid && job.geoid ? { geoid: { name: job.geoid, bytes: geoid.buffer } } : {}),
      });
      tell({ type: "look", serial: mine, given: { ...given, id: "look", file: file.name } });
    };
    void ask();
  }, [ready, job, jobId, given, file.name]);

  /** Whether what is looked at is of what was answered last; else it is being read anew. */
  const isOfNow = looked?.of.job === job && looked.of.given === given;
  return { looked, isOfNow, problem, progress, stop };
}

/** As much of the job as the look needs: a structured clone of all would copy what it does not. */
function lookJob({
  unit,
  order,
  tolerance,
  curvature,
  scaleFactor,
  system,
  setups,
  intakes,
  delivered,
  points,
  book,
  crews,
}: LookJob): LookJob {
  return { unit, order, tolerance, curvature, scaleFactor, system, setups, intakes, delivered, points, book, crews };
}
