"use client";
/** Files may be dropped on any part of the window; they are looked at one after another. */
import { useEffect, useState } from "react";
import { offerFiles } from "../lib/incoming";

const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;

export function DropAnywhere() {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const onOver = (event: DragEvent) => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      // Left for another element of the page is not left.
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      setOver(false);
      offerFiles([...event.dataTransfer!.files]);
    };
    window.addEventListener("dragover", onOver);
    window.addEventListener("dragleave", onLeave);
    window.addEventListener("drop", onDrop);
    return () => {
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("dragleave", onLeave);
      window.removeEventListener("drop", onDrop);
    };
  }, []);
  if (!over) return null;
  return (
    <div className="pointer-events-none fixed inset-0 z-50 flex items-center justify-center bg-bramble-wash/80">
      <p className="heading text-bramble">Drop to look at what came, before anything is stored</p>
    </div>
  );
}
