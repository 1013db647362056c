import path from "node:path";
import type { NextConfig } from "next";

const root = path.join(import.meta.dirname, "..");

const config: NextConfig = {
  transpilePackages: ["@bramble/core", "@bramble/db"],
  serverExternalPackages: ["pg", "pg-boss"],
  outputFileTracingRoot: root,
  turbopack: { root },
  images: { unoptimized: true },
  // Types are checked by the test run's own step, with the same compiler for all packages.
  typescript: { ignoreBuildErrors: true },
  poweredByHeader: false,
  devIndicators: false,
  headers: async () => [
    {
      source: "/:path*",
      headers: [
        { key: "x-content-type-options", value: "nosniff" },
        { key: "referrer-policy", value: "no-referrer" },
        { key: "x-frame-options", value: "DENY" },
        { key: "cross-origin-opener-policy", value: "same-origin" },
        { key: "cross-origin-resource-policy", value: "same-origin" },
      ],
    },
  ],
};

export default config;
