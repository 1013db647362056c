/** Gives texts their index, adding those not seen before. */
export class TextStore {
  private readonly index: Map<string, number>;

  constructor(readonly texts: string[] = [""]) {
    this.index = new Map(texts.map((t, i) => [t, i]));
  }

  of(text: string): number {
    let i = this.index.get(text);
    if (i === undefined) {
      i = this.texts.length;
      this.texts.push(text);
      this.index.set(text, i);
    }
    return i;
  }
}
