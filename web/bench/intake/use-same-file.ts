"use client";
/** Whether the very bytes of a file were taken in before. */
import { useEffect, useState } from "react";
import type { StoredIntake } from "@bramble/db";
import type { Incoming } from "../../lib/incoming";
import { useParts } from "../../lib/store";

export function useSameFile(incoming: Incoming): StoredIntake | undefined {
  const { intakes } = useParts("intakes");
  const [digest, setDigest] = useState<string>();
  useEffect(() => {
    let current = true;
    // Digests are made where the page comes from this machine or a safe connection; else nothing is said.
    if (incoming.again || !globalThis.crypto?.subtle) return;
    void incoming
      .bytes()
      .then((bytes) => crypto.subtle.digest("SHA-256", bytes))
      .then((hash) => {
        const hex = Array.from(new Uint8Array(hash), (b) => b.toString(16).padStart(2, "0")).join("");
        if (current) setDigest(hex);
      })
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [incoming]);
  return digest === undefined ? undefined : intakes.find((k) => k.sha256 === digest);
}
