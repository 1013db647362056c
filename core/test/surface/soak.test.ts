// @long: left out of npm run test:quick.
import { checkScene, sceneOf } from "./soak";

test("four hundred nasty scenes hold what any surface must; npm run soak tries thousands", () => {
  let made = 0;
  for (let k = 0; k < 400; k++) if (checkScene(sceneOf(k))) made++;
  expect(made).toBeGreaterThan(250);
});

test("a crossing beside the end of a piece, nearer than coordinates of millions can tell, is passed once", () => {
  expect(checkScene(sceneOf(5874))).toBe(true);
});
