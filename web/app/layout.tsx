import "@fontsource-variable/inter";
import "@fontsource-variable/source-code-pro";
import "@fontsource-variable/source-serif-4";
import "./globals.css";
import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import { NONCE } from "../server/policy";

export const metadata: Metadata = {
  title: "Rough Bramble",
  description: "From coded shots to linework, terrain and volumes",
};

/** The theme is set before the first paint, so that it never flashes. */
const THEME =
  `try{document.documentElement.dataset.theme=localStorage.getItem("theme")??` +
  `(matchMedia("(prefers-color-scheme: dark)").matches?"dark":"light")}catch{}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get(NONCE) ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME }} />
      </head>
      <body>{children}</body>
    </html>
  );
}
