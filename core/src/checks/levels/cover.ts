/** The sums of an interval of the crew's order over the forms that it touches, made anew or followed as its ends move. */
import type { LevelField } from "./field";
import type { Members } from "./members";
import type { Residuals } from "./residuals";
import type { Sums } from "./seeds";

export class Cover {
  /** Σ of a form's coefficients on the interval, of forms that it touches. */
  readonly v: Float64Array;
  /** The forms that it touches: the first `count`. */
  readonly touched: Int32Array;
  count = 0;
  /** The last interval that touched each form. */
  private readonly seen: Int32Array;
  private covered = 0;

  constructor(
    readonly field: LevelField,
    readonly members: Members,
    forms: number,
  ) {
    this.v = new Float64Array(forms);
    this.touched = new Int32Array(forms);
    this.seen = new Int32Array(forms);
  }

  /** v of all forms that an interval touches. */
  cover(r: Residuals, from: number, to: number): void {
    const { of, forms, coefs } = r.by,
      { order } = this.field;
    this.count = 0;
    this.covered++;
    for (let p = from; p <= to; p++) {
      const i = order[p]!;
      for (let k = of[i]!; k < of[i + 1]!; k++) {
        const f = forms[k]!;
        if (this.seen[f] !== this.covered) {
          this.seen[f] = this.covered;
          this.touched[this.count++] = f;
          this.v[f] = 0;
        }
        this.v[f]! += coefs[k]!;
      }
    }
  }

  /** S = Σ v r/s² and Q = Σ v²/s² of an interval, which it covers. */
  sums(r: Residuals, from: number, to: number): Sums {
    this.cover(r, from, to);
    let s = 0,
      q = 0;
    for (let k = 0; k < this.count; k++) {
      const f = this.touched[k]!,
        w = r.weight[f]! * this.v[f]!;
      s += w * r.r[f]!;
      q += w * this.v[f]!;
    }
    return { s, q };
  }

  /** The shift of an interval: S/Q. */
  shiftOf(r: Residuals, from: number, to: number): number {
    const { s, q } = this.sums(r, from, to);
    return q > 0 ? s / q : 0;
  }

  /** Takes shots from a position on into the covered interval or out of it; how S and Q change by it. */
  move(r: Residuals, { from, count, out }: Shots): Sums {
    const { of, forms, coefs } = r.by,
      { order } = this.field,
      sign = out ? -1 : 1;
    let s = 0,
      q = 0;
    for (let p = from; p < from + count; p++)
      for (let k = of[order[p]!]!; k < of[order[p]! + 1]!; k++) {
        const f = forms[k]!,
          c = sign * coefs[k]!,
          v = this.seen[f] === this.covered ? this.v[f]! : 0,
          w = r.weight[f]!;
        this.seen[f] = this.covered;
        this.v[f] = v + c;
        s += w * c * r.r[f]!;
        q += w * c * (2 * v + c);
      }
    return { s, q };
  }
}

/** Shots that are taken into an interval or out of it. */
export interface Shots {
  from: number;
  count: number;
  out: boolean;
}
