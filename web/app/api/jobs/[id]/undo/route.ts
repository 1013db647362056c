import { stepHandler } from "../../../../../server/step";

/** Takes a change back. */
export const POST = stepHandler("undo");
