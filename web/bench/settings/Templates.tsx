"use client";
import { useEffect, useState } from "react";
import { templateOf } from "@bramble/core/job/leave/template";
import { getJson, postJson, remove } from "../../lib/client";
import { useParts } from "../../lib/store";
import { NameForm } from "../../controls/fields/NameForm";
import { Section } from "./fields";

/** The settings kept for the next job. */
export function Templates() {
  const { job, jobId } = useParts("job", "jobId");
  const [kept, setKept] = useState<string[]>([]),
    [naming, setNaming] = useState(false),
    [said, setSaid] = useState("");
  const load = () =>
    void getJson<{ name: string }[]>("/api/office/template").then(
      (list) => setKept(list.map((t) => t.name)),
      () => undefined,
    );
  useEffect(load, []);
  const keep = async (name: string) => {
    try {
      // The geoid's grid comes along.
      await postJson("/api/office/template", { name, body: templateOf(job), from: jobId });
      setSaid(`Kept as template “${name}”. A new job can start from it.`);
      setNaming(false);
      load();
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  const forget = async (name: string) => {
    try {
      await remove(`/api/office/template?name=${encodeURIComponent(name)}`);
      setSaid(`Template “${name}” is no longer kept.`);
      load();
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  return (
    <Section title="Template" about="settings, code book, sets, surfaces and handover files for the next job">
      {naming ? (
        <NameForm
          label="Name of the template"
          action="Keep it"
          first={job.name}
          taken={[]}
          replaces={kept}
          make={keep}
          leave={() => setNaming(false)}
        />
      ) : (
        <button className="button" onClick={() => setNaming(true)}>
          Keep as a template
        </button>
      )}
      {said && (
        <p role="status" className="mt-2 text-soft">
          {said}
        </p>
      )}
      {kept.length > 0 && (
        <ul className="mt-2">
          {kept.map((name) => (
            <li key={name} className="row max-w-md justify-between">
              <span>{name}</span>
              <button className="button button-plain" onClick={() => void forget(name)}>
                Do not keep
              </button>
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}
