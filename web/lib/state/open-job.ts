/** The open job: what it holds, what follows from it, how it is stored, and what a person does to it. */
import type { AddedPoints, EditableChange, IntakeOptions, JobState } from "@bramble/core";
import type { PointKind } from "@bramble/core/records/kinds";
import type { Answers, Question, TextsAsked } from "../../workers/chain.worker";
import type { Shown } from "../session/session";
import type { View } from "../view";

export interface Notice {
  text: string;
  tone: "plain" | "settled" | "problem";
  /** What may be done about it at once. */
  action?: { name: string; go: () => void };
}

export interface OpenJob extends Shown {
  status: "loading" | "ready" | "failed";
  failure: string;
  jobId: number;
  view: View;
  /** Milliseconds of the last run of the chain. */
  derivedIn: number;
  deriving: boolean;
  /** What is being made now, where it takes long; "" else. */
  stage: string;
  /** The person stopped what was being made: what is shown is of before. */
  stopped: boolean;
  /** Deliveries and the like that are being stored. */
  saving: number;
  notice: Notice | undefined;
  open(jobId: number): Promise<void>;
  /** The job as it is stored, constructed points where they were made: what a change of their own coordinates is based on. */
  stored(): JobState;
  /** Carries a change out here and sends it on its way; false when it cannot be done. */
  change(change: EditableChange): boolean;
  undo(delivery?: boolean): Promise<void>;
  /** Takes one entry of the ledger back, or does it again, whatever came after it. */
  stepEntry(kind: "undo" | "redo", seq: number): Promise<void>;
  redo(delivery?: boolean): Promise<void>;
  /** Tries to store at once what waits. */
  retry(): void;
  giveUp(name: string): void;
  /** The person's wish once more, on what is there now. */
  insist(name: string): void;
  takeIn(file: File, options: unknown): Promise<boolean>;
  /** Reads the file of an intake in another way, in its place. */
  readAgain(key: string, options: IntakeOptions): Promise<boolean>;
  withdraw(key: string): Promise<void>;
  restore(key: string): Promise<void>;
  /** Stops what is being made; and makes it after all. */
  stop(): void;
  goOn(): void;
  askTexts(ask: TextsAsked): void;
  /** Which comparison is looked at closely; undefined for none. */
  lookAtVolume(name: string | undefined): void;
  /** Begins a rehearsal; ends it, taking what was changed in it or dropping it. */
  rehearse(): void;
  endRehearsal(take: boolean): void;
  /** Asks the worker about lines, whose exact pieces only it has. */
  ask<Q extends Question>(question: Q): Promise<Answers[Q["what"]]>;
  /** Ids for so many points that the office makes; undefined when the server does not answer. */
  idsToTake(count: number): Promise<number[] | undefined>;
  /**
   * The columns of one point that the office makes, with an id of its own; undefined when the server does not answer.
   */
  pointToMake(point: {
    number: string;
    e: number;
    n: number;
    z: number;
    description: string;
    kind?: Exclude<PointKind, "reference"> | undefined;
  }): Promise<AddedPoints | undefined>;
}
