"use client";
/** The parts of the settings, and what only they have. */
import type { ReactNode } from "react";
import type { SettingField } from "@bramble/core";

export type SetSetting = (field: SettingField, value: unknown) => void;

/** A part of the settings; `holds` names the settings in it, so that one can be gone to. */
export function Section({
  title,
  about,
  holds,
  children,
}: {
  title: string;
  about?: string;
  holds?: readonly SettingField[];
  children: ReactNode;
}) {
  return (
    <section
      aria-label={title}
      data-holds={holds?.join(" ")}
      className="border-t border-rule py-3 first:border-0 first:pt-0"
    >
      <h2 className="heading pb-2">
        {title} {about && <span className="font-sans text-[13px] font-normal text-soft">{about}</span>}
      </h2>
      {children}
    </section>
  );
}
