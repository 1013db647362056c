/** What a description says, once it is read by a book. */
import type { Action, FoundBy } from "./book";
import type { CodeEntry } from "./model";

export interface Cue {
  action: Action;
  value?: string;
  /** Added by the office, which speaks of points by the numbers that they have now. */
  byOffice?: true;
}

export interface ParsedElement {
  /** The word as written. */
  word: string;
  entry: CodeEntry | undefined;
  code: string;
  run: string;
  /** Code and run in one, by which shots of a line are gathered. */
  key: string;
  by: FoundBy | undefined;
  cues: Cue[];
  attributes: Map<string, string>;
}

/** What a word or element did not do as written; the text says it without the point's number. */
export interface WordIssue {
  kind: "unread-word" | "attribute-wrong" | "attribute-missing" | "cue-ignored";
  word: string;
  text: string;
  /** The code whose word it is, and the attribute that it is about. */
  code?: string;
  attribute?: string;
}

export interface ParsedDescription {
  elements: ParsedElement[];
  note: string;
  issues: WordIssue[];
  /** Whether the description alone puts the shot on the ground; `air` and `ground` are settled here. */
  ground: boolean;
}
