/** Columns that grow as values come, for readers that do not know their count beforehand. */
class Growing<A extends Float64Array | Float32Array | Int32Array | Uint8Array> {
  count = 0;

  constructor(
    private readonly sized: (length: number) => A,
    private values: A = sized(1024),
  ) {}

  push(x: number): void {
    if (this.count === this.values.length) {
      const wider = this.sized(2 * this.count);
      wider.set(this.values as never);
      this.values = wider;
    }
    this.values[this.count++] = x;
  }

  at(i: number): number {
    return this.values[i]!;
  }

  /** The values in a column of their own; this one begins anew with its memory. */
  take(): A {
    const out = this.values.slice(0, this.count) as A;
    this.count = 0;
    return out;
  }

  /** The values alone; the column is used up. */
  done(): A {
    return (this.values.length === this.count ? this.values : this.values.slice(0, this.count)) as A;
  }
}

export class Doubles extends Growing<Float64Array> {
  constructor() {
    super((length) => new Float64Array(length));
  }
}

export class Ints extends Growing<Int32Array> {
  constructor() {
    super((length) => new Int32Array(length));
  }
}

export class Singles extends Growing<Float32Array> {
  constructor() {
    super((length) => new Float32Array(length));
  }
}

export class Bytes extends Growing<Uint8Array> {
  constructor() {
    super((length) => new Uint8Array(length));
  }
}
