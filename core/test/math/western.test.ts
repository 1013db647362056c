/** Windows-1252: every sign that the encoding has goes out and comes in again. */
import { decodeWestern, encodeWestern } from "../../src/math/western";

test("each byte is the sign that it stands for, and goes back to it", () => {
  const undefinedBytes = [0x81, 0x8d, 0x8f, 0x90, 0x9d];
  for (let b = 0; b < 256; b++)
    if (!undefinedBytes.includes(b)) expect([...encodeWestern(decodeWestern(Uint8Array.of(b)))]).toEqual([b]);
});

test("signs by the published table; what it does not have is a question mark", () => {
  expect([...encodeWestern("A€Žž°ÿ\u00a0 ")]).toEqual([0x41, 0x80, 0x8e, 0x9e, 0xb0, 0xff, 0xa0, 0x20]);
  expect([...encodeWestern("漢😀Ā")]).toEqual([0x3f, 0x3f, 0x3f]);
});
