/**
 * What a control has that cannot be used now: it says why under the pointer, and to who does not see it. Nothing where
 * there is no reason.
 */
export function unless(why: string | false | undefined): {
  disabled?: true;
  title?: string;
  "aria-description"?: string;
} {
  return why ? { disabled: true, title: why, "aria-description": why } : {};
}
