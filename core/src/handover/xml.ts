/** Text and attributes of XML. */

/** The text without characters that XML 1.0 does not have at all: control characters, halves of pairs. */
export function withoutControls(text: string): string {
  return text.replace(/\p{Cc}|\p{Surrogate}|[\ufffe\uffff]/gu, (c) => (/[\t\n\r\x7f-\x9f]/.test(c) ? c : ""));
}

/** Those with a meaning of their own are written as entities. */
export function xmlText(text: string): string {
  return withoutControls(text).replace(/[&<>"\t\n\r]/g, (c) => ENTITIES[c]!);
}

const ENTITIES: Record<string, string> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "\t": "&#9;",
  "\n": "&#10;",
  "\r": "&#13;",
};

/** ` name="value"` of each that is given; none that is undefined or "". */
export function attributes(of: Record<string, string | number | undefined>): string {
  return Object.entries(of)
    .filter(([, value]) => value !== undefined && value !== "")
    .map(([name, value]) => ` ${name}="${xmlText(String(value))}"`)
    .join("");
}
