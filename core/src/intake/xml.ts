/**
 * XML as a stream of closed elements, over saxes. What could be used against the server is refused at once: document type
 * declarations (and with them every entity of one's own, inside or outside), nesting deeper than 100, zero bytes.
 */
import { readDecimal } from "../math/decimal";
import { SaxesParser } from "saxes";
import { refusal } from "../errors";
import type { Progress } from "./delimited";

const DEEPEST = 100;
const LONGEST_TEXT = 64e6;
const PIECE = 1 << 16;

export interface XmlElement {
  /** Without its namespace prefix. */
  name: string;
  attributes: Record<string, string>;
  text: string;
  /** Line on which the element starts. */
  row: number;
  parent: XmlElement | undefined;
}

/** What a reader does when an element ends; its text and attributes are complete then. */
export interface XmlHandler {
  open?(element: XmlElement): void;
  close(element: XmlElement): void;
}

export function readXml(file: string, bytes: Uint8Array, handler: XmlHandler, progress?: Progress): void {
  if (bytes.length === 0) throw refusal("file-empty", { file });
  const parser = new SaxesParser({ xmlns: false, position: true, fileName: "" });
  let current: XmlElement | undefined,
    depth = 0;
  const local = (name: string) => name.slice(name.indexOf(":") + 1);
  const broken = (why: string): never => {
    throw refusal("file-xml", { file, row: parser.line, why });
  };
  parser.on("error", (e) => broken(e.message.replace(/^\d+:\d+: /, "").replace(/\.$/, "")));
  parser.on("doctype", () =>
    broken("it declares a document type, which is not read here for safety; take that line out"),
  );
  parser.on("opentag", (tag) => {
    if (++depth > DEEPEST) broken(`its elements are nested more than ${DEEPEST} deep`);
    current = {
      name: local(tag.name),
      attributes: tag.attributes as Record<string, string>,
      text: "",
      row: parser.line,
      parent: current,
    };
    handler.open?.(current);
  });
  const addText = (text: string) => {
    if (!current) return;
    if (current.text.length + text.length > LONGEST_TEXT) broken("one element holds more text than can be read");
    current.text += text;
  };
  parser.on("text", addText);
  parser.on("cdata", addText);
  parser.on("closetag", () => {
    const done = current!;
    depth--;
    current = done.parent;
    handler.close(done);
  });
  const decoder = new TextDecoder(encodingOf(bytes));
  for (let at = 0, piece = 0; at < bytes.length; at += PIECE, piece++) {
    const part = bytes.subarray(at, at + PIECE);
    if (decoder.encoding === "utf-8" && part.includes(0))
      throw refusal("file-binary", { file, at: at + part.indexOf(0) });
    parser.write(decoder.decode(part, { stream: true }));
    if ((piece & 15) === 15 && progress?.(at / bytes.length) === false) return;
  }
  parser.write(decoder.decode()).close();
}

/** By byte order mark, else as declared; UTF-8 otherwise. */
function encodingOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return "utf-16le";
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return "utf-16be";
  const head = String.fromCharCode(...bytes.subarray(0, 200));
  const declared = /^\s*(?:\u00ef\u00bb\u00bf)?<\?xml[^>]*encoding\s*=\s*["']([A-Za-z0-9._-]+)["']/
    .exec(head)?.[1]
    ?.toLowerCase();
  return declared === "iso-8859-1" || declared === "windows-1252" || declared === "us-ascii" ? "windows-1252" : "utf-8";
}

/** Decimals separated by blanks; a word that is none gives NaN in its place. */
export function numbersOf(text: string): number[] {
  const t = text.trim();
  return t === "" ? [] : t.split(/\s+/).map(readDecimal);
}
