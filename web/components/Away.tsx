"use client";
/** Stands where a page cannot be shown because the database is away, and asks for the page again until it is back. */
import { useRouter } from "next/navigation";
import { useEffect } from "react";

const AGAIN = 2000;

export function Away({ why }: { why: string }) {
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), AGAIN);
    return () => clearInterval(timer);
  }, [router]);
  return (
    <main className="mx-auto max-w-6xl px-8 py-10">
      <p className="font-serif text-[15px] text-bramble italic">Rough Bramble</p>
      <h1 className="mt-1 font-serif text-4xl font-semibold">The jobs cannot be shown</h1>
      <p role="status" className="mt-2 text-soft">
        {why} This page comes back by itself.
      </p>
    </main>
  );
}
