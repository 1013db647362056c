/**
 * Windows-1252, which files are in that are not in UTF-8. Node 20 takes it for Latin-1, without the signs of 0x80 to
 * 0x9f, unless it reads as a stream; a byte is a character, so that a stream that never ends is none the worse for it.
 */
export function decodeWestern(bytes: Uint8Array): string {
  return new TextDecoder("windows-1252").decode(bytes, { stream: true });
}

/** The signs of 0x80 to 0x9f, a blank where there is none. */
const FROM_80 = "€ ‚ƒ„…†‡ˆ‰Š‹Œ Ž  ‘’“”•–—˜™š›œ žŸ";

/** A character that the encoding does not have becomes a question mark. */
export function encodeWestern(text: string): Uint8Array {
  return Uint8Array.from(text, (c) => {
    const code = c.codePointAt(0)!;
    if (code < 0x80 || (code >= 0xa0 && code < 0x100)) return code;
    const at = c === " " ? -1 : FROM_80.indexOf(c);
    return at < 0 ? 0x3f : 0x80 + at;
  });
}
