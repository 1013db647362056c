/** Residuals of a field by its forms, with their scales; shots are corrected, and what that changes is followed. */
import type { LevelField } from "./field";
import { NEAR, type LevelForms } from "./forms";

/** A scale that changes by less than this share makes nothing worth weighing again. */
const TOLD_FROM = 0.1;
/** No level is better known than this, in metres. */
const LEAST_SCALE = 0.01;
/** The standard deviation of normal noise as a multiple of the median of its absolute values. */
export const OF_MEDIAN = 1.4826;

/**
 * Ground steeper than this says nothing of levels by plan positions: where a face turns its forms are wrong by metres.
 */
const STEEPEST = 1;

/** Forms, and shots, that are measured before others may have their turn. */
const AT_ONCE = 20_000;

/** The forms that each shot takes part in: those of shot i are [of[i], of[i + 1]). */
export interface FormsByShot {
  of: Int32Array;
  forms: Int32Array;
  coefs: Float32Array;
  /** The shot that each form is of. */
  owner: Int32Array;
}

export function formsByShot(f: LevelForms): FormsByShot {
  const shots = f.of.length - 1,
    of = new Int32Array(shots + 1),
    entries = f.shots.length;
  for (let k = 0; k < entries; k++) of[f.shots[k]! + 1]!++;
  for (let i = 0; i < shots; i++) of[i + 1]! += of[i]!;
  const next = of.slice(),
    forms = new Int32Array(entries),
    coefs = new Float32Array(entries),
    owner = new Int32Array(f.count);
  for (let k = 0; k < f.count; k++) {
    owner[k] = f.shots[f.starts[k]!]!;
    for (let c = f.starts[k]!; c < f.starts[k + 1]!; c++) {
      const to = next[f.shots[c]!]!++;
      forms[to] = k;
      coefs[to] = f.coefs[c]!;
    }
  }
  return { of, forms, coefs, owner };
}

export class Residuals {
  private constructor(
    readonly field: LevelField,
    readonly forms: LevelForms,
    readonly by: FormsByShot,
    /** Levels, corrected ones included. */
    readonly z: Float64Array,
    /** r of each form. */
    readonly r: Float64Array,
    /** 1 for forms on ground too steep to say anything. */
    readonly silent: Uint8Array,
    /** The scale of a level's noise at each shot; a form's is `spread` times that of its own shot. */
    readonly scale: Float64Array,
    /** What each form weighs: 1/s², nothing where it is silent. */
    readonly weight: Float64Array,
  ) {}

  /** Of levels as they are; yields now and then. */
  static *of(field: LevelField, forms: LevelForms, by: FormsByShot): Generator<void, Residuals> {
    const { z } = field,
      out = new Residuals(
        field,
        forms,
        by,
        z.slice(),
        new Float64Array(forms.count),
        new Uint8Array(forms.count),
        new Float64Array(z.length),
        new Float64Array(forms.count),
      );
    for (let f = 0; f < forms.count; f++) {
      if (f % AT_ONCE === 0) yield;
      out.measure(f);
    }
    for (let i = 0; i < z.length; i++) {
      if (i % AT_ONCE === 0) yield;
      out.weigh(i);
    }
    return out;
  }

  /** Of a field of which some levels are others than in `last`: the same, to the last digit, as measured anew. */
  static again(last: Residuals, field: LevelField): Residuals {
    const { forms, by } = last,
      { z } = field;
    const out = last.copy(field);
    const touched = new Uint8Array(z.length);
    let any = false;
    for (let j = 0; j < z.length; j++) {
      if (z[j] === last.z[j]) continue;
      out.z[j] = z[j]!;
      for (let k = by.of[j]!; k < by.of[j + 1]!; k++) touched[by.owner[by.forms[k]!]!] = 1;
      any = true;
    }
    if (!any) return last;
    out.moved.clear();
    for (let i = 0; i < z.length; i++)
      if (touched[i]) for (let f = forms.of[i]!; f < forms.of[i + 1]!; f++) out.measure(f);
    const { near } = forms;
    for (let i = 0; i < z.length; i++)
      for (let k = NEAR * i; k < NEAR * (i + 1); k++)
        if (near[k]! >= 0 && touched[near[k]!]) {
          if (out.weigh(i) !== last.scale[i] || touched[i]) out.moved.add(i);
          break;
        }
    return out;
  }

  copy(field = this.field): Residuals {
    const { forms, by, z, r, silent, scale, weight } = this;
    return new Residuals(field, forms, by, z.slice(), r.slice(), silent.slice(), scale.slice(), weight.slice());
  }

  /** The scale of a form's residual. */
  scaleOf(form: number): number {
    return this.forms.spread[form]! * this.scale[this.by.owner[form]!]!;
  }

  /** Takes an amount off the level of a shot. */
  lower(shot: number, amount: number): void {
    const { of, forms, coefs, owner } = this.by;
    this.z[shot]! -= amount;
    for (let k = of[shot]!; k < of[shot + 1]!; k++) {
      this.r[forms[k]!]! -= coefs[k]! * amount;
      this.changed.add(owner[forms[k]!]!);
    }
  }

  /** Shots whose residuals are others than when scales were weighed. */
  private readonly changed = new Set<number>();
  private readonly moved = new Set<number>();

  /** Shots whose residual or scale is another since this was asked last; scales that moved by little are not told. */
  takeMoved(): number[] {
    const all = [...this.moved];
    this.moved.clear();
    return all;
  }

  /** Weighs the scales again where residuals changed and near there; returns the shots concerned. */
  rescale(): number[] {
    const { near } = this.forms,
      all = new Set<number>();
    for (const i of this.changed) {
      this.moved.add(i);
      for (let f = this.forms.of[i]!; f < this.forms.of[i + 1]!; f++) this.measure(f);
      for (let k = NEAR * i; k < NEAR * (i + 1); k++) if (near[k]! >= 0) all.add(near[k]!);
    }
    this.changed.clear();
    const shots = [...all].sort((a, b) => a - b);
    for (const i of shots) {
      const before = this.scale[i]!;
      if (Math.abs(this.weigh(i) - before) > TOLD_FROM * before) this.moved.add(i);
    }
    return shots;
  }

  private measure(form: number): void {
    const { starts, shots, coefs, along } = this.forms,
      { x, y } = this.field,
      { z } = this,
      first = starts[form]!,
      own = shots[first]!;
    let level = 0;
    for (let c = first + 1; c < starts[form + 1]!; c++) level -= coefs[c]! * z[shots[c]!]!;
    this.r[form] = z[own]! - level;
    this.silent[form] = 0;
    if (along[form]) return;
    for (let c = first + 1; c < starts[form + 1]!; c++) {
      const j = shots[c]!,
        rise = z[j]! - level,
        dx = x[j]! - x[own]!,
        dy = y[j]! - y[own]!;
      if (rise * rise > STEEPEST * STEEPEST * (dx * dx + dy * dy)) {
        this.silent[form] = 1;
        return;
      }
    }
  }

  private weigh(i: number): number {
    const { near, of, spread } = this.forms;
    let n = 0;
    for (let k = NEAR * i; k < NEAR * (i + 1) && n < NEAR && near[k]! >= 0; k++)
      for (let f = of[near[k]!]!; f < of[near[k]! + 1]! && n < NEAR; f++)
        if (!this.silent[f]) sizes[n++] = Math.abs(this.r[f]!) / spread[f]!;
    const scale = (this.scale[i] = Math.max(LEAST_SCALE, OF_MEDIAN * (n ? medianOf(n) : 0)));
    for (let f = of[i]!; f < of[i + 1]!; f++) this.weight[f] = this.silent[f] ? 0 : 1 / (spread[f]! * scale) ** 2;
    return scale;
  }
}

const sizes = new Float64Array(NEAR);

/** The median of the first n of `sizes`. */
function medianOf(n: number): number {
  for (let k = 1; k < n; k++) {
    const value = sizes[k]!;
    let to = k;
    while (to > 0 && sizes[to - 1]! > value) {
      sizes[to] = sizes[to - 1]!;
      to--;
    }
    sizes[to] = value;
  }
  const middle = n >> 1;
  return n % 2 ? sizes[middle]! : (sizes[middle - 1]! + sizes[middle]!) / 2;
}
