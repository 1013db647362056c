"use client";
import { useEffect } from "react";
import { useJob } from "../lib/store";

/** The map of cut and fill is drawn while the volumes are at hand, and put away with them. */
export function useMapOnlyHere(): void {
  const toggle = useJob((s) => s.toggle);
  useEffect(() => {
    toggle("map", true);
    return () => toggle("map", false);
  }, [toggle]);
}
