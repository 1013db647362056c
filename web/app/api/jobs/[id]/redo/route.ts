import { stepHandler } from "../../../../../server/step";

/** Does again what was taken back. */
export const POST = stepHandler("redo");
