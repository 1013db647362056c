"use client";
import { useEffect } from "react";
import { useJob } from "../../lib/store";

/** While the volumes are at hand the comparison that one is at is looked at closely, and its map drawn. */
export function useLookHere(volume: string): void {
  const toggle = useJob((s) => s.toggle),
    lookAtVolume = useJob((s) => s.lookAtVolume),
    set = useJob((s) => s.set);
  useEffect(() => {
    toggle("map", true);
    return () => {
      toggle("map", false);
      lookAtVolume(undefined);
    };
  }, [toggle, lookAtVolume]);
  useEffect(() => {
    lookAtVolume(volume || undefined);
    set({ flood: undefined });
  }, [volume, lookAtVolume, set]);
}
