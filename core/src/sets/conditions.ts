/** What a rule can ask of a point, one entry for each condition: what it reads, how it is tested, how it is said. */
import type { CodedPoints } from "../codes/read";
import { attributeTexts, codeOf } from "../codes/read";
import { refusal } from "../errors";
import { readTime } from "../intake/delimited";
import type { IntakeInfo } from "../intake/model";
import { insideRing } from "../math/ring";
import { wildcard } from "../math/words";
import { readNumberList, writeNumbers } from "../points/numbers";
import { findPoints, type PointRef, type RefColumns } from "../points/refs";
import { worstPrecision } from "../points/precision";
import { GONE_DELETED, type PointTable } from "../points/table";
import { KINDS } from "../records/kinds";
import type { Condition, ConditionKind, Conditions, PointSet, Range } from "./model";

/** What rules are tested on; a condition reads only the columns that it names. */
export interface SetContext {
  table: Pick<PointTable, "count" | "deleted"> & Partial<PointTable>;
  coded?: CodedPoints;
  intakes?: readonly IntakeInfo[];
  sets: readonly PointSet[];
  /** Setups that observed the point of a row, as `intake / id`. */
  pointSetups?: ReadonlyMap<number, readonly string[]>;
  /** Kinds of findings at the point of a row; left out where findings are not known yet. */
  findingsAt?: ReadonlyMap<number, ReadonlySet<string>>;
}

/** Names of what rules read, among the values of the chain. */
export type SetReads =
  | "coded"
  | "intakes"
  | "pointSetups"
  | "findingsAt"
  | "number"
  | "id"
  | "row"
  | "cameAs"
  | "kind"
  | "intake"
  | "e"
  | "n"
  | "z"
  | "texts"
  | "description"
  | "note"
  | "attributes"
  | "time"
  | "precision"
  | "measured";

export type Test = (i: number) => boolean;

interface Kind<V> {
  reads: readonly SetReads[];
  /** `path` names the asker in a refusal. */
  test(value: V, c: SetContext, path: string): Test;
  /** `numberOf` says what a point is called that is referred to. */
  says(value: V, numberOf: (ref: PointRef) => string): string;
}

/** Points that a sentence names, of thousands that may be chosen. */
const MOST_SAID = 20;

const either = (words: readonly string[]) => words.join(" or ");
const between = ([from, to]: Range<string | number>) =>
  from === null ? (to === null ? "any" : `up to ${to}`) : to === null ? `from ${from}` : `${from} to ${to}`;
const within = ([from, to]: Range<number>, x: number) =>
  (from === null || x >= from) && (to === null || x <= to) && x === x;

export const CONDITIONS: { [K in ConditionKind]: Kind<Conditions[K]> } = {
  codes: {
    reads: ["coded"],
    test(codes, { coded }) {
      const patterns = codes.map(wildcard);
      return (i) => {
        const { elements } = coded!.parsed[coded!.description[i]!]!;
        return elements.length
          ? elements.some((e) => patterns.some((is) => is(e.code)))
          : patterns.some((is) => is(codeOf(coded!, i)));
      };
    },
    says: (codes) => `code ${either(codes)}`,
  },
  numbers: {
    reads: ["number"],
    test(numbers, { table }, path) {
      const list = readNumberList(numbers);
      if (!list) throw refusal("recipe-field", { path, why: `“${String(numbers)}” is no list of point numbers` });
      return (i) => list.has(table.number![i]!);
    },
    says: (numbers) => `number ${typeof numbers === "string" ? numbers : numbers.join(", ")}`,
  },
  points: {
    reads: ["id", "number", "cameAs", "intake", "row", "intakes"],
    test(refs, { table, intakes }) {
      const found = findPoints(table as RefColumns, intakes!),
        rows = new Set(refs.map((ref) => found.rowOf(ref, true)));
      return (i) => rows.has(i);
    },
    says(refs, numberOf) {
      const more = refs.length - MOST_SAID;
      return `${refs.length === 1 ? "point" : "points"} ${writeNumbers(refs.slice(0, MOST_SAID).map(numberOf))}${more > 0 ? ` and ${more} more` : ""}`;
    },
  },
  kind: {
    reads: ["kind"],
    test:
      (kinds, { table }) =>
      (i) =>
        kinds.includes(KINDS[table.kind![i]!]!),
    says: (kinds) => `kind ${either(kinds)}`,
  },
  intake: {
    reads: ["intake", "intakes"],
    test(ids, { table, intakes }, path) {
      const wanted = new Set(
        ids.map((id) => {
          const index = intakes!.findIndex((k) => k.id === id);
          if (index < 0) throw refusal("reference-missing", { path, what: "intake", name: id });
          return index;
        }),
      );
      return (i) => wanted.has(table.intake![i]!);
    },
    says: (ids) => `intake ${either(ids)}`,
  },
  elevation: {
    reads: ["z"],
    test:
      (range, { table }) =>
      (i) =>
        within(range, table.z![i]!),
    says: (range) => `elevation ${between(range)}`,
  },
  inside: {
    reads: ["e", "n"],
    test(ring, { table }) {
      const [e, n] = [ring.map((c) => c[0]), ring.map((c) => c[1])],
        [minE, maxE, minN, maxN] = [Math.min(...e), Math.max(...e), Math.min(...n), Math.max(...n)];
      // Most points are outside the ring's box, which costs next to nothing to see.
      return (i) => {
        const pe = table.e![i]!,
          pn = table.n![i]!;
        return pe >= minE && pe <= maxE && pn >= minN && pn <= maxN && insideRing(ring, pe, pn);
      };
    },
    says: (ring) => `inside a ring of ${ring.length} corners`,
  },
  text: {
    reads: ["texts", "description", "note"],
    test(pattern, { table }) {
      const like = wildcard(pattern),
        known = new Map<number, boolean>();
      // Texts are kept once, so each is looked at once.
      const fits = (k: number) => {
        let is = known.get(k);
        if (is === undefined) known.set(k, (is = like(table.texts![k]!)));
        return is;
      };
      return (i) => fits(table.description![i]!) || fits(table.note![i]!);
    },
    says: (pattern) => `description or note like ${pattern}`,
  },
  attribute: {
    reads: ["texts", "attributes", "coded"],
    test(wanted, { table, coded }) {
      const t = { attributes: table.attributes!, texts: table.texts! },
        like = "is" in wanted ? wildcard(wanted.is) : undefined;
      const fits = (text: string) => {
        if (text === "") return false;
        if (like) return like(text);
        const { from = null, to = null } = wanted as { from?: number; to?: number };
        return within([from, to], Number(text.replace(",", ".")));
      };
      return (i) => attributeTexts(t, coded!, i, wanted.name).some(fits);
    },
    says: (a) => ("is" in a ? `${a.name} like ${a.is}` : `${a.name} ${between([a.from ?? null, a.to ?? null])}`),
  },
  crew: {
    reads: ["intake", "intakes"],
    test:
      (crews, { table, intakes }) =>
      (i) =>
        crews.includes(intakes![table.intake![i]!]?.crew ?? ""),
    says: (crews) => `crew ${either(crews)}`,
  },
  setup: {
    reads: ["pointSetups"],
    test:
      (setups, { pointSetups }) =>
      (i) =>
        pointSetups!.get(i)?.some((s) => setups.includes(s) || setups.includes(s.slice(s.indexOf(" / ") + 3))) ?? false,
    says: (setups) => `setup ${either(setups)}`,
  },
  time: {
    reads: ["time"],
    test(range, { table }, path) {
      const ends = range.map((text) => {
        if (text === null) return null;
        const time = readTime(text);
        if (Number.isNaN(time))
          throw refusal("recipe-field", { path, why: `“${text}” is no time such as 2031-04-17 08:00` });
        return time;
      }) as Range<number>;
      return (i) => within(ends, table.time![i]!);
    },
    says: (range) => `taken ${between(range)}`,
  },
  precision: {
    reads: ["precision", "measured"],
    test:
      (range, { table }) =>
      (i) =>
        within(range, worstPrecision(table as PointTable, i).value),
    says: (range) => `precision ${between(range)}`,
  },
  finding: {
    reads: ["findingsAt"],
    test(kinds, { findingsAt }, path) {
      if (!findingsAt)
        throw refusal("recipe-field", {
          path,
          why: "what is found depends on surfaces, so none can be made of findings",
        });
      return (i) => {
        const at = findingsAt.get(i);
        return at !== undefined && kinds.some((k) => at.has(k));
      };
    },
    says: (kinds) => `with the finding ${either(kinds.map((k) => k.replaceAll("-", " ")))}`,
  },
  deleted: {
    reads: [],
    test:
      (_, { table }) =>
      (i) =>
        (table.deleted[i]! & GONE_DELETED) !== 0,
    says: () => "deleted",
  },
};

/** The one condition that a rule is; undefined where it is made of rules. */
export function conditionOf(rule: object): ConditionKind | undefined {
  return Object.keys(rule).find((k): k is ConditionKind => k in CONDITIONS);
}

/** The entry of a condition with its value, whatever kind it is. */
export function entryOf(rule: Condition, kind: ConditionKind): [Kind<unknown>, unknown] {
  return [CONDITIONS[kind] as Kind<unknown>, (rule as Record<string, unknown>)[kind]];
}
