/** Columns that grow as values come, for readers that do not know their count beforehand. */
export class Doubles {
  private values = new Float64Array(1024);
  count = 0;

  push(x: number): void {
    if (this.count === this.values.length) this.values = widened(this.values, new Float64Array(2 * this.count));
    this.values[this.count++] = x;
  }

  at(i: number): number {
    return this.values[i]!;
  }

  /** The values alone; the column is used up. */
  done(): Float64Array {
    return this.values.length === this.count ? this.values : this.values.slice(0, this.count);
  }
}

export class Ints {
  private values = new Int32Array(1024);
  count = 0;

  push(x: number): void {
    if (this.count === this.values.length) this.values = widened(this.values, new Int32Array(2 * this.count));
    this.values[this.count++] = x;
  }

  at(i: number): number {
    return this.values[i]!;
  }

  set(i: number, x: number): void {
    this.values[i] = x;
  }

  done(): Int32Array {
    return this.values.length === this.count ? this.values : this.values.slice(0, this.count);
  }
}

function widened<T extends Float64Array | Int32Array>(from: T, to: T): T {
  to.set(from as never);
  return to;
}

/** Gives texts their index; index 0 is the empty text. */
export class TextIndex {
  readonly texts = [""];
  private readonly index = new Map([["", 0]]);

  of(text: string): number {
    let i = this.index.get(text);
    if (i === undefined) this.index.set(text, (i = this.texts.push(text) - 1));
    return i;
  }
}
