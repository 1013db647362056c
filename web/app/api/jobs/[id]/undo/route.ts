import { stepHandler } from "../../../../../lib/step";

/** Takes a change back. */
export const POST = stepHandler("undo");
