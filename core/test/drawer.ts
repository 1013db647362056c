/** Even in [0, 1), the same for the same seed (xorshift, Marsaglia 2003). */
export function drawer(seed: number): () => number {
  let s = (Math.imul(seed, 0x9e3779b1) ^ 0x5bf03635) | 1;
  return () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return (s >>> 0) / 2 ** 32;
  };
}
