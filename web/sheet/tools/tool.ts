/** What pointing on the sheet is for: a small machine of its own, with the preview that belongs to it. */
import type { Box } from "../../lib/box";
import type { PlanView } from "../camera";
import type { SheetColors } from "../../lib/theme";

/** What a tool may ask of the sheet. */
export interface ToolHost {
  readonly plan: PlanView;
  redraw(): void;
}

export interface Tool {
  /** The pointer rests over a position, with no button down. */
  hover(e: number, n: number): void;
  click(e: number, n: number, add: boolean): void;
  boxed(box: Box, add: boolean): void;
  /** Dragging draws from one position to another, where the tool is for that; `done` when the button is let go. */
  dragged?(from: readonly [number, number], to: readonly [number, number], done: boolean): void;
  /** Whether it does so from there; everywhere, where it does not say. */
  drags?(e: number, n: number): boolean;
  /** True when the key meant something to it. */
  key?(key: string): boolean;
  /** Escape: what is in hand is put down. */
  leave(): void;
  /** Draws what a click would do. */
  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void;
}
