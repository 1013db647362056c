/** Text and attributes of XML. */

/** Characters that XML 1.0 does not have at all are left out; those with a meaning of their own are written as entities. */
export function xmlText(text: string): string {
  return text
    .replace(
      /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
      "",
    )
    .replace(/[&<>"\t\n\r]/g, (c) => ENTITIES[c]!);
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
