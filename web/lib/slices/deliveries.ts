/** What goes its own way to the server: deliveries taken in, read again, withdrawn and brought back, and steps back. */
import { describeChange, unplacedPerIntake } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import type { ToldEntry, ReadAgain, StoredIntake } from "@bramble/db";
import { boxOf, boxOfPoints } from "../box";
import { postFile, postJson, putJson, Refused, remove } from "../client";
import type { Session } from "../session/session";
import type { OpenJob } from "../state/open-job";
import type { Store } from "../state/store";

/** The store, and its work that goes to the server one after another; what it refuses is said. */
export interface OwnWay {
  set: (part: Partial<Store>) => void;
  get: () => Store;
  store: <T>(work: (open: Session) => Promise<T>) => Promise<T | undefined>;
}

/** One step back or forwards; of a delivery only when that is asked for. */
export async function step(
  { set, get, store }: OwnWay,
  kind: "undo" | "redo",
  delivery: boolean,
  entrySeq?: number,
): Promise<void> {
  await store(async (open) => {
    if (!(await open.idle())) {
      // What never reached the server is taken back here.
      const last = get().waiting.at(-1);
      if (kind === "redo" || entrySeq !== undefined || !last)
        throw new Error("Something is not stored yet; it comes first.");
      open.giveUp(last.name);
      return set({
        notice: { text: `${describeChange(last.change)}: taken back before it was stored`, tone: "plain" },
      });
    }
    try {
      const asked = new URLSearchParams({
        ...(delivery ? { delivery: "yes" } : {}),
        ...(entrySeq === undefined ? {} : { entry: String(entrySeq) }),
      });
      const entry = await postJson<ToldEntry>(`/api/jobs/${get().jobId}/${kind}?${asked}`);
      await open.arrived(entry);
      set({ notice: { text: entry.text, tone: "plain" } });
    } catch (e) {
      if (!(e instanceof Refused) || e.code !== "undo-delivery") throw e;
      const name = kind === "undo" ? `Take “${String(e.data.file)}” back` : `Do “${String(e.data.file)}” again`;
      set({
        notice: {
          text: e.message,
          tone: "plain",
          action: { name, go: () => void step({ set, get, store }, kind, true, entrySeq) },
        },
      });
    }
  });
}

/** After an intake came: its points selected, the sheet at them. */
async function showIntake({ set, get }: OwnWay, open: Session, entry: ToldEntry, key: string): Promise<void> {
  await open.arrived(entry);
  const state = open.job,
    row = state.intakes.findIndex((k) => k.id === key),
    t = state.points;
  const mine: number[] = [];
  for (let i = 0; i < t.count; i++) if (t.intake[i] === row && !t.deleted[i]) mine.push(i);
  get().select({ points: mine.map((i) => t.id[i]!) });
  const lines = state.delivered[row]?.reference?.lines ?? [];
  const all = lines.flatMap((l) =>
    Array.from({ length: l.xyz.length / 3 }, (_, k) => [l.xyz[3 * k]!, l.xyz[3 * k + 1]!] as const),
  );
  get().show(
    boxOfPoints(t, mine) ??
      boxOf(
        all.length,
        (k) => all[k]![0],
        (k) => all[k]![1],
      ),
  );
  set({ incoming: undefined });
}

/** Points of a delivery that were observed and have no position yet. */
function unplacedOf({ get }: OwnWay, { id }: { id: string }): number {
  const { points, intakes } = get().job;
  return unplacedPerIntake(points, intakes.length)[intakes.findIndex((k) => k.id === id)] ?? 0;
}

function withoutPosition(way: OwnWay, info: { id: string }): string {
  const n = unplacedOf(way, info);
  return n ? `; ${plural(n, "observed point has", "observed points have")} no position yet: look at the setups` : "";
}

function taken(way: OwnWay, info: StoredIntake): string {
  const r = info.reference,
    points = info.points - unplacedOf(way, info);
  const parts = [
    points > 0 || !r ? plural(points, "point") : "",
    r?.lines ? plural(r.lines, "reference line") : "",
    r?.surfaces.length ? plural(r.surfaces.length, "reference surface") : "",
  ];
  return `${parts.filter(Boolean).join(", ")} taken in`;
}

export function deliveries(way: OwnWay): Pick<OpenJob, "takeIn" | "readAgain" | "withdraw" | "restore"> {
  const { set, get, store } = way,
    intakeUrl = (key = "") => `/api/jobs/${get().jobId}/intakes${key && `/${encodeURIComponent(key)}`}`;
  return {
    async takeIn(file, options) {
      return (
        (await store(async (open) => {
          const { entry, info } = await postFile<{ entry: ToldEntry; info: StoredIntake }>(intakeUrl(), file, options);
          await showIntake(way, open, entry, info.id);
          const refused = info.refused.length ? `; ${plural(info.refused.length, "row")} refused` : "";
          set({
            notice: {
              text: `${taken(way, info)} from “${info.file}”${refused}${withoutPosition(way, info)}.`,
              tone: "settled",
            },
          });
          return true;
        })) ?? false
      );
    },

    async readAgain(key, options) {
      return (
        (await store(async (open) => {
          const file = get().intakes.find((k) => k.id === key)!.file;
          const { entry, info, lost } = await putJson<ReadAgain>(intakeUrl(key), { ...options, file });
          await showIntake(way, open, entry, key);
          const edits = lost.length
            ? ` ${plural(lost.length, "edit")} found no point any more: ` +
              `${lost.slice(0, 3).join(" ")}${lost.length > 3 ? " The ledger lists all." : ""}`
            : "";
          const points = plural(info.points - unplacedOf(way, info), "point");
          set({
            notice: {
              text: `“${info.file}” was read again: ${points}${withoutPosition(way, info)}.${edits}`,
              tone: lost.length ? "problem" : "settled",
            },
          });
          return true;
        })) ?? false
      );
    },

    async withdraw(key) {
      await store(async (open) => {
        const entry = await remove<ToldEntry>(intakeUrl(key));
        await open.arrived(entry);
        set({ notice: { text: `${entry.text}. It can be restored below.`, tone: "plain" } });
      });
    },

    async restore(key) {
      await store(async (open) => {
        await showIntake(way, open, await postJson<ToldEntry>(intakeUrl(key), { action: "restore" }), key);
        set({
          notice: { text: `“${get().intakes.find((k) => k.id === key)?.file ?? key}” is back.`, tone: "settled" },
        });
      });
    },
  };
}
