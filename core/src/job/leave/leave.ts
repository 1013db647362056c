/** One file of the handover made ready to leave: by itself, or a package of others with their manifest. */
import { unzipSync } from "fflate";
import { Refusal, refusal } from "../../errors";
import { zipped } from "../../handover/archive";
import { MANIFEST_FILE, manifestFile, type Manifest, type ManifestFile } from "../../handover/manifest";
import { HANDOVER_FORMATS } from "../../handover/formats";
import { isBrought, type BroughtFile, type HandoverFile, type PackageFile } from "../../handover/files";
import { filesOf, leavingName, staysInside } from "../../handover/names";
import { livingCount } from "../../points/table";
import { writeFile, type Written } from "./handover";
import type { JobThen } from "./handover-source";
import type { JobState } from "../model/model";
import type { Derived } from "../chain/values";

type SingleFile = Exclude<HandoverFile, PackageFile>;

/** What the core is given by what runs it. */
export interface HandoverHost {
  /** SHA-256 in hexadecimal. */
  sha256(bytes: Uint8Array): string | Promise<string>;
  /** The job when a file was made last, by the file's name in the handover. */
  last?(file: string): JobThen | undefined | Promise<JobThen | undefined>;
  /** Writes what the core cannot write by itself; where it is not there such files are refused. */
  brought?(file: BroughtFile): Promise<Written>;
  /** Told what is being written, and the share of the whole that is done. */
  progress?(what: string, share: number): void | Promise<void>;
  /** The entry of the ledger that the job is after, and the names of this state. */
  entry?: number;
  states?: string[];
}

export interface HandoverMade {
  bytes: Uint8Array;
  told: ManifestFile;
}

/** Writes one file of the handover, or a package with all that it holds. Throws a Refusal for what cannot be made. */
export async function writeHandover(
  file: HandoverFile,
  state: JobState,
  derived: Derived,
  host: HandoverHost,
): Promise<HandoverMade> {
  const tell = async (name: string, format: string, { bytes, proof }: Written): Promise<HandoverMade> => ({
    bytes,
    told: manifestFile(name, format, bytes, await host.sha256(bytes), proof),
  });
  const one = async (f: SingleFile) => {
    if (isBrought(f)) {
      if (!host.brought) throw refusal("handover-application", { file: f.file, what: HANDOVER_FORMATS[f.format].name });
      return tell(leavingName(f.file, state, host.entry), f.format, await host.brought(f));
    }
    const written = await writeFile(f, state, derived, await host.last?.(f.file));
    return tell(leavingName(f.file, state, host.entry), f.format, written);
  };
  const leaving = [...(file.format === "package" ? filesOf(file, state.handover) : []), file];
  for (const f of leaving)
    if (!staysInside(leavingName(f.file, state, host.entry)))
      throw refusal("recipe-outside", { path: `handover “${f.file}”`, file: f.file });
  if (file.format !== "package") return one(file);
  const held = filesOf(file, state.handover),
    made: HandoverMade[] = [];
  for (const [k, f] of held.entries()) {
    await host.progress?.(f.file, k / held.length);
    made.push(
      await one(f).catch((e: unknown) => {
        if (!(e instanceof Refusal)) throw e;
        throw refusal("handover-part", { file: file.file, part: f.file, why: e.message });
      }),
    );
  }
  const files: Record<string, Uint8Array> = {};
  for (const { bytes, told } of made) {
    if (files[told.file] || told.file === MANIFEST_FILE)
      throw refusal("recipe-field", { path: `handover “${file.file}”`, why: `“${told.file}” would be in it twice` });
    files[told.file] = bytes;
  }
  const manifest = manifestOf(
    state,
    derived,
    host,
    made.map((m) => m.told),
  );
  files[MANIFEST_FILE] = new TextEncoder().encode(`${JSON.stringify(manifest, null, 2)}\n`);
  const bytes = zipped(files, state.date);
  return tell(leavingName(file.file, state, host.entry), file.format, {
    bytes,
    proof: await provePackage(file, bytes, manifest, host),
  });
}

function manifestOf(state: JobState, derived: Derived, host: HandoverHost, files: ManifestFile[]): Manifest {
  const openFindings: Record<string, number> = {};
  for (const f of derived.findings)
    if (f.accepted === undefined) openFindings[f.severity] = (openFindings[f.severity] ?? 0) + 1;
  return {
    manifest: 1,
    job: state.name,
    ...(state.client ? { client: state.client } : {}),
    ...(state.date ? { date: state.date } : {}),
    unit: state.unit,
    ...(state.system ? { system: state.system } : {}),
    ...(host.entry !== undefined ? { entry: host.entry } : {}),
    ...(host.states?.length ? { states: host.states } : {}),
    points: livingCount(state.points),
    lines: derived.lines.length,
    openFindings,
    files,
  };
}

/** Opens the archive again: every file must be in it as its checksum says. */
async function provePackage(file: PackageFile, bytes: Uint8Array, { files }: Manifest, host: HandoverHost) {
  const found = unzipSync(bytes);
  for (const f of files) {
    const content = found[f.file];
    if (!content || (await host.sha256(content)) !== f.sha256)
      throw refusal("handover-proof", { file: file.file, why: `“${f.file}” in it is another` });
  }
  return { counts: { files: files.length }, difference: Math.max(0, ...files.map((f) => f.largestDifference)) };
}
