import { stepHandler } from "../../../../../lib/step";

/** Does again what was taken back. */
export const POST = stepHandler("redo");
