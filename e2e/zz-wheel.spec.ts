import fs from "node:fs";
import { test } from "@playwright/test";
import { intakeRequest, openAs, settled } from "./helpers";
import { firstDrawn, watch } from "./waits";
import { chance } from "../core/bench/data";

test("wheel", async ({ page }) => {
  test.setTimeout(900_000);
  const r = chance(5), N = Number(process.env.ZN ?? 200000), side = Math.sqrt(N) * 4;
  const codes = ["HEDGE", "FENCE", "WALL", "KERB", "TOP"];
  const rows: string[] = [];
  const lines = N / 40;
  for (let l = 0; l < lines; l++) { let e = r() * side, n = r() * side, h = r() * 6.28; for (let k = 0; k < 20; k++) { rows.push(`${rows.length + 1},${(3000 + e).toFixed(2)},${(7000 + n).toFixed(2)},${(100 + 8 * Math.sin(e / 90)).toFixed(2)},${codes[l % 5]}${l}`); h += (r() - 0.5) * 0.5; e += 1.5 * Math.cos(h); n += 1.5 * Math.sin(h); } }
  while (rows.length < N) { const e = r() * side, n = r() * side; rows.push(`${rows.length + 1},${(3000 + e).toFixed(2)},${(7000 + n).toFixed(2)},${(100 + 8 * Math.sin(e / 90)).toFixed(2)},${r() < 0.05 ? "TREE" : "SPOT"}`); }
  const { id } = (await (await page.request.post("/api/jobs", { data: { name: `Wheel`, unit: "m", order: "EN", book: "general" } })).json()) as { id: number };
  const t0 = Date.now();
  await page.request.post(`/api/jobs/${id}/intakes`, intakeRequest(rows.join("\n"), { file: "big.csv" }));
  console.log("taken", Date.now() - t0);
  for (const [part, body] of [["surfaces", { name: "ground" }], ["contours", { surface: "ground", interval: 1 }], ["volumes", { name: "ground", surface: "ground", level: 101 }]] as const)
    await page.request.post(`/api/jobs/${id}/changes`, { headers: { "x-author": "Petra" }, data: { type: "named", part, name: "ground", old: null, new: body } });
  await watch(page);
  const t1 = Date.now();
  await openAs(page, "Petra", `/jobs/${id}/points`);
  const f = await firstDrawn(page);
  console.log("first drawn", f, Date.now() - t1);
  const t2 = Date.now();
  await settled(page);
  console.log("settled", Date.now() - t2);
  if (process.env.PROFILE) {
    const cdp = await page.context().newCDPSession(page);
    await cdp.send("Profiler.enable"); await cdp.send("Profiler.start");
    (page as any).cdp = cdp;
  }
  const box = (await page.getByTestId("sheet").boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.screenshot({ path: "/tmp/pics/wheel0.png" });
  for (let k = 0; k < Number(process.env.STEPS ?? 26); k++) {
    await page.evaluate(() => { (window as any).waits.longest = 0; });
    const s0 = Date.now();
    await page.mouse.wheel(0, -240);
    // quiet: no frame longer than 100 ms for 700 ms
    const out = await page.evaluate(() => new Promise<[number, number]>((done) => { const t0 = performance.now(); let calm = performance.now(), last = calm; let longest = 0; const f = () => { const now = performance.now(); longest = Math.max(longest, now - last); if (now - last > 100) calm = now; last = now; if (now - calm > 700) done([longest, calm - t0]); else requestAnimationFrame(f); }; requestAnimationFrame(f); }));
    const scale = (await page.getByTestId("sheet").getAttribute("data-view"))!.split(" ")[2];
    console.log("1:" + Math.round(0.0254 / 96 ** 1 * 0 + 1000 / (Number(scale) * 0.2646)), out.map(Math.round), Date.now() - s0);
    if (k % 5 === 4) await page.screenshot({ path: `/tmp/pics/wheel${k + 1}.png` });
  }
  if ((page as any).cdp) { const { profile } = await (page as any).cdp.send("Profiler.stop"); fs.writeFileSync("/tmp/prof/browser.cpuprofile", JSON.stringify(profile)); }
});
