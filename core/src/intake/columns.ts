/**
 * What a column of a file may mean, each once: fields of a point, what was measured of it, and what only files say. Readers,
 * the recipe's schema and the words on the screen follow from here.
 */
import { FIELDS, READ_FIELDS, fieldName, type ReadField } from "../records/fields";
import { isMeasured, MEASURED, MEASURED_FIELDS, measuredName, type MeasuredField } from "../records/measured";

/** What places a point, names its code or its time, or says nothing: `heads` as in records/fields.ts. */
const OTHERS = {
  code: { heads: "code featurecode kode kod codigo codice koodi" },
  station: { heads: "station chainage" },
  offset: { heads: "offset" },
  latitude: { heads: "lat latitude breite breitengrad latitud latitudine breedte" },
  longitude: { heads: "lon long lng longitude lange langengrad longitud longitudine lengte" },
  height: {
    words: "ellipsoidal height",
    heads:
      "ell(ip(s(oid(al)?)?)?)?\\.?(height|hgt|ht|h|elev|elevation)(\\(.*\\))? " +
      "(height|hgt|ht|h)\\(?ell(ip(s(oid(al)?)?)?)?\\.?\\)?",
  },
  time: { heads: "time date datetime timestamp zeit datum uhrzeit heure hora ora tijd tid czas" },
  skip: { words: "(skip)", heads: undefined },
} satisfies Record<string, { words?: string; heads: string | undefined }>;
type OtherColumn = keyof typeof OTHERS;

export type NamedColumn = ReadField | MeasuredField | OtherColumn;

/** In the order in which they are offered; the one that says nothing is the last. */
export const COLUMNS: readonly NamedColumn[] = [
  ...READ_FIELDS,
  ...(Object.keys(OTHERS) as OtherColumn[]).filter((c) => c !== "skip"),
  ...MEASURED_FIELDS,
  "skip",
];

const isRead = (c: NamedColumn): c is ReadField => (READ_FIELDS as string[]).includes(c);

/** What sentences call a column. */
export function columnName(column: NamedColumn): string {
  if (isRead(column)) return fieldName(column);
  if (isMeasured(column)) return measuredName(column);
  const other = OTHERS[column];
  return "words" in other ? other.words : column;
}

const patternOf = (heads: string) => new RegExp(`^(${heads.split(" ").join("|")})$`);
const HEADS: readonly [RegExp, NamedColumn][] = COLUMNS.flatMap((c) => {
  const { heads } = isRead(c) ? FIELDS[c] : isMeasured(c) ? MEASURED[c] : OTHERS[c];
  return heads === undefined ? [] : [[patternOf(heads), c] as [RegExp, NamedColumn]];
});

/** What a heading means; it is compared without case, blanks and accents, which the caller has taken off. */
export const meaningOfHead = (head: string): NamedColumn | undefined =>
  HEADS.find(([pattern]) => pattern.test(head))?.[1];
