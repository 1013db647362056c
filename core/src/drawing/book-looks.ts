/**
 * What a book asks of the drawing that is not there: told when a book is taken from a file, since the drawing itself
 * makes do.
 */
import type { CodeBook } from "../codes/model";
import { readTemplate } from "./label";
import { isLineStyle } from "./line-styles";
import { symbolOf } from "./symbols";

/** One sentence for each line style, symbol, attribute or template that cannot be carried out. */
export function oddLooks(book: CodeBook): string[] {
  return (book.codes ?? []).flatMap((c) => {
    const isPoint = (c.kind ?? "point") === "point",
      has = (name: string) => (c.attributes ?? []).some((a) => a.name === name);
    const read = c.label ? readTemplate(c.label) : undefined;
    return [
      ...(!isPoint && c.style !== undefined && !isLineStyle(c.style)
        ? [`${c.code}: there is no line style “${c.style}”; its lines are solid.`]
        : []),
      ...(isPoint && c.symbol !== undefined && !symbolOf(c.symbol)
        ? [`${c.code}: there is no symbol “${c.symbol}”; it is drawn as a spot.`]
        : []),
      ...(["size", "rotation"] as const).flatMap((f) =>
        c[f]?.attribute !== undefined && !has(c[f].attribute)
          ? [`${c.code}: its ${f} is to come from “${c[f].attribute}”, which is no attribute of it.`]
          : [],
      ),
      ...(read && "problem" in read ? [`${c.code}: its note cannot be written. ${read.problem}`] : []),
    ];
  });
}
