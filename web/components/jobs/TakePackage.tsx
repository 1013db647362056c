"use client";
/** A job that comes from another office, as its recipe with the files: it becomes a new job here. */
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { postFileTo } from "../../lib/client";
import { FileInput } from "../../controls/FileInput";
import { unless } from "../../controls/unless";

export function TakePackage() {
  const router = useRouter(),
    file = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState(""),
    [waiting, setWaiting] = useState(""),
    [problem, setProblem] = useState("");
  const take = async (given: File) => {
    setReading(given.name);
    setWaiting("");
    setProblem("");
    try {
      const { id } = await postFileTo<{ id: number }>("/api/jobs", given, setWaiting);
      router.push(`/jobs/${id}/points`);
    } catch (e) {
      setProblem((e as Error).message);
      setReading("");
    }
  };
  return (
    <section aria-labelledby="take-package" className="mt-8 border-t border-rule pt-5">
      <h2 id="take-package" className="heading">
        A job from elsewhere
      </h2>
      <p className="mt-2 text-soft">
        A recipe saved with its files becomes a job here: its points, lines, edits and all that is made of them.
      </p>
      <FileInput input={file} label="A recipe with its files" accept=".zip" take={([given]) => void take(given!)} />
      <button
        className="button mt-3"
        {...unless(reading !== "" && "A job is being read.")}
        onClick={() => file.current!.click()}
      >
        Take a job in
      </button>
      {reading && (
        <p role="status" className="mt-2 text-soft">
          {waiting || `Reading “${reading}” …`}
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-3 text-red">
          {problem}
        </p>
      )}
    </section>
  );
}
