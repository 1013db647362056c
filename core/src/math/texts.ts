/**
 * Gives texts their index, adding those not seen before. A list of texts only ever grows, so that all tables that share
 * it keep their indices, and a text that is added makes none of them another.
 */
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

  private static readonly kept = new WeakMap<string[], TextStore>();

  /** The one store of a list: its index is made once, whoever asks. */
  static over(texts: string[]): TextStore {
    let store = TextStore.kept.get(texts);
    if (!store) TextStore.kept.set(texts, (store = new TextStore(texts)));
    return store;
  }
}
