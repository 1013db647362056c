"use client";
/** What is under the cursor; apart from the job's store, so that moving the mouse renders one line only. */
import { create } from "zustand";
import type { Underfoot } from "@bramble/core/surface/locate";
import type { Picked } from "./pick";

export const useReadout = create<{
  at: [number, number] | undefined;
  under: Underfoot | undefined;
  hit: Picked;
  scale: number;
}>(() => ({ at: undefined, under: undefined, hit: undefined, scale: 1 }));
