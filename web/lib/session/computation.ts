/** The worker that follows the job: what it is told, what it tells, and the questions that it answers. */
import type { EditableChange } from "@bramble/core";
import type { Layout } from "@bramble/core/drawing/layout";
import type { View, VolumeLooked } from "../view";
import type { Answers, FromWorker, Question, TextsAsked, ToWorker } from "../../workers/chain.worker";

export interface Told {
  layout(layout: Layout | undefined): void;
  /** What follows from the job; `last` when nothing newer is under way. */
  view(view: Partial<View>, milliseconds: number, last: boolean): void;
  /** The comparison that one is at, looked at anew; and what has come to it since. */
  looked(looked: VolumeLooked | undefined): void;
  more(part: Partial<VolumeLooked>): void;
  busy(): void;
  /** What is being made now, where it takes long. */
  stage(words: string): void;
  /** Nothing is being made any more; what is shown is of before. */
  stopped(): void;
  /** It was stopped and is to follow again: the job is needed whole. */
  again(): void;
  failed(): void;
}

export class Computation {
  private worker: Worker;
  private isStopped = false;
  private serial = 0;
  private questions = 0;
  private volume: string | undefined;
  /** Questions to the worker that it has not answered yet. */
  private readonly answers = new Map<number, (answer: unknown) => void>();

  constructor(private readonly told: Told) {
    this.worker = this.begin();
  }

  private begin(): Worker {
    const worker = new Worker(new URL("../../workers/chain.worker.ts", import.meta.url), { type: "module" }),
      { told } = this;
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if ("layout" in data) told.layout(data.layout);
      else if ("stage" in data) told.stage(data.stage);
      else if ("looked" in data) told.looked(data.looked);
      else if ("more" in data) told.more(data.more);
      else if ("answer" in data) {
        this.answers.get(data.id)?.(data.answer);
        this.answers.delete(data.id);
      } else told.view(data.view, data.milliseconds, data.serial === this.serial);
    };
    worker.onerror = () => told.failed();
    if (this.volume !== undefined) worker.postMessage({ type: "volume", name: this.volume } satisfies ToWorker);
    return worker;
  }

  /** Ends what is being made, in the middle of it. */
  stop(): void {
    this.worker.terminate();
    this.worker = this.begin();
    this.isStopped = true;
    for (const answer of this.answers.values()) answer(undefined);
    this.answers.clear();
    this.told.stopped();
  }

  load(bytes: ArrayBuffer): void {
    this.isStopped = false;
    this.tell({ type: "load", bytes, serial: ++this.serial }, [bytes]);
  }

  follow(changes: EditableChange[]): void {
    if (this.isStopped) return this.told.again();
    this.tell({ type: "changes", changes, serial: ++this.serial });
  }

  askTexts(ask: TextsAsked): void {
    this.worker.postMessage({ type: "texts", ask } satisfies ToWorker);
  }

  /** Which comparison is looked at closely; undefined for none. */
  lookAt(name: string | undefined): void {
    this.volume = name;
    this.worker.postMessage({ type: "volume", name } satisfies ToWorker);
  }

  /** From now on it is told what becomes of the job as it is; or no more. */
  rehearse(on: boolean): void {
    this.worker.postMessage({ type: "rehearse", on } satisfies ToWorker);
  }

  ask<Q extends Question>(question: Q): Promise<Answers[Q["what"]]> {
    return new Promise((resolve) => {
      const id = ++this.questions;
      this.answers.set(id, resolve as (answer: unknown) => void);
      this.worker.postMessage({ type: "question", id, question } satisfies ToWorker);
    });
  }

  close(): void {
    this.worker.terminate();
  }

  private tell(message: ToWorker, transfer: Transferable[] = []): void {
    this.told.busy();
    this.worker.postMessage(message, transfer);
  }
}
