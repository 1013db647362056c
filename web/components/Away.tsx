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
    <main className="flex h-screen items-center justify-center p-6">
      <p role="status" className="max-w-md text-center">
        {why}
      </p>
    </main>
  );
}
