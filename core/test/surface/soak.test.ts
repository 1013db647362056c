import { checkScene, sceneOf } from "./soak";

test("four hundred nasty scenes hold what any surface must; npm run soak tries thousands", () => {
  let made = 0;
  for (let k = 0; k < 400; k++) if (checkScene(sceneOf(k))) made++;
  expect(made).toBeGreaterThan(250);
});
