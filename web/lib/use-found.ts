"use client";
import { useMemo } from "react";
import { findPoints, type PointFinder } from "@bramble/core/points/refs";
import { useParts } from "./store";

/** Finds the points of the open job that its things refer to. */
export function useFound(): PointFinder {
  const { points, intakes } = useParts("job").job;
  return useMemo(() => findPoints(points, intakes), [points, intakes]);
}
