/** Compensated sum (Neumaier 1974): the error does not grow with the number of terms. */
export class Sum {
  private total = 0;
  private lost = 0;

  add(x: number): void {
    const t = this.total + x;
    this.lost += Math.abs(this.total) >= Math.abs(x) ? this.total - t + x : x - t + this.total;
    this.total = t;
  }

  get value(): number {
    return this.total + this.lost;
  }
}
