"use client";
/** What is under the cursor; apart from the job's store, so that moving the mouse renders one line only. */
import { create } from "zustand";
import type { Underfoot } from "@bramble/core/surface/locate";
import type { PlanView } from "./camera";
import type { Picked } from "./pick";

export const useReadout = create<{
  at: [number, number] | undefined;
  under: Underfoot | undefined;
  /** Levels of the other surfaces there. */
  others: readonly { name: string; level: number }[];
  hit: Picked;
  scale: number;
  /** The window onto the plan. */
  plan: PlanView;
}>(() => ({
  at: undefined,
  under: undefined,
  others: [],
  hit: undefined,
  scale: 1,
  plan: { e: 0, n: 0, scale: 1, width: 0, height: 0 },
}));
