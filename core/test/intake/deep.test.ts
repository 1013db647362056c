/** What is nested hundreds of thousands deep ends in a sentence, wherever JSON comes in. */
import fc from "fast-check";
import { parseRecipe, Refusal } from "../../src";
import { openGeoJson } from "../../src/intake/geojson";
import { parseJson } from "../../src/math/json";

const deep = (open: string, close: string, inner = "0", count = 300_000) =>
  open.repeat(count) + inner + close.repeat(count);

test.each<[string, string]>([
  ["coordinates", `{"type":"Point","coordinates":${deep("[", "]")}}`],
  ["geometries", deep('{"type":"GeometryCollection","geometries":[', "]}", '{"type":"Point","coordinates":[1,2]}')],
  ["properties", `{"type":"Feature","geometry":null,"properties":{"a":${deep('{"a":', "}")}}}`],
])("a GeoJSON file with %s so deep is refused by a sentence", (_, text) => {
  const read = () => openGeoJson("deep.json", new TextEncoder().encode(text));
  expect(read).toThrow(Refusal);
  expect(read).toThrow(/nested more than 200 deep/);
});

test.each<[string, string]>([
  ["a rule of a set", `{"recipe":1,"sets":[{"name":"a","rule":${deep('{"all":[', "]}", '{"code":"A"}')}}]}`],
  ["an unknown field", `{"recipe":1,"x":${deep("[", "]")}}`],
])("a recipe with %s so deep is refused by a sentence", (_, text) => {
  const read = () => parseRecipe(text, "r.json");
  expect(read).toThrow(Refusal);
  expect(read).toThrow(/nested more than 200 deep/);
});

test("what is not so deep is read as JSON reads it, brackets in texts are none", () => {
  fc.assert(
    fc.property(fc.json({ maxDepth: 8 }), fc.string(), (text, said) => {
      expect(parseJson(text)).toEqual(JSON.parse(text));
      const quoted = JSON.stringify([said, '[{"\\', "[".repeat(300)]);
      expect(parseJson(`\ufeff${quoted}`)).toEqual(JSON.parse(quoted));
    }),
  );
  expect(parseJson(deep("[", "]", "1", 200))).toBeDefined();
  expect(() => parseJson(deep("[", "]", "1", 201))).toThrow("at character 201 it is nested more than 200 deep");
});
