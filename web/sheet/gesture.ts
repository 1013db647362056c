/**
 * Pointing on the sheet as a small state machine: idle → pressed → panning or boxing → idle.
 * It knows pixels only; what a click or a box means is told to the sheet.
 */
export interface GestureEffects {
  pan(dx: number, dy: number): void;
  box(corners: [number, number, number, number] | undefined): void;
  click(x: number, y: number, add: boolean): void;
  boxed(corners: [number, number, number, number], add: boolean): void;
  /** Whether dragging from there draws now, instead of moving the sheet; and the line that it draws, to its end. */
  draws(x: number, y: number): boolean;
  drawn(corners: [number, number, number, number], done: boolean): void;
}

type State =
  | { at: "idle" }
  | { at: "pressed" | "panning" | "boxing" | "drawing"; x0: number; y0: number; x: number; y: number; shift: boolean };

export class Gesture {
  state: State = { at: "idle" };

  constructor(private readonly effects: GestureEffects) {}

  down(x: number, y: number, shift: boolean): void {
    this.state = { at: "pressed", x0: x, y0: y, x, y, shift };
  }

  move(x: number, y: number): void {
    const s = this.state;
    if (s.at === "idle") return;
    if (s.at === "pressed" && Math.hypot(x - s.x0, y - s.y0) < 4) return;
    const begun = s.shift ? "boxing" : this.effects.draws(s.x0, s.y0) ? "drawing" : "panning",
      at = s.at === "pressed" ? begun : s.at;
    if (at === "drawing") this.effects.drawn([s.x0, s.y0, x, y], false);
    else if (at === "panning") this.effects.pan(x - s.x, y - s.y);
    else this.effects.box([s.x0, s.y0, x, y]);
    this.state = { ...s, at, x, y };
  }

  up(x: number, y: number): void {
    const s = this.state;
    this.state = { at: "idle" };
    if (s.at === "pressed") this.effects.click(x, y, s.shift);
    else if (s.at === "boxing") {
      this.effects.box(undefined);
      this.effects.boxed([s.x0, s.y0, x, y], true);
    } else if (s.at === "drawing") this.effects.drawn([s.x0, s.y0, x, y], true);
  }

  cancel(): void {
    if (this.state.at === "boxing") this.effects.box(undefined);
    this.state = { at: "idle" };
  }
}
