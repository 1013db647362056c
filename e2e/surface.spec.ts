import { expect, test, type Page } from "@playwright/test";
import { goTo, newJob, openAs, pixelOnSheet, settled, takeIn } from "./helpers";

/** A lattice of 10 m, 110 m each way, on a plane; a point far off, and a bed of 20 m by 20 m in the middle. */
const TEXT = [
  ...Array.from({ length: 144 }, (_, k) => {
    const [row, col] = [Math.floor(k / 12), k % 12];
    return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},${(10 + 0.5 * row).toFixed(2)},SPOT`;
  }),
  "900,7055,3300,12.75,SPOT",
  ...[
    [40, 40],
    [40, 60],
    [60, 60],
    [60, 40],
  ].map(([n, e], k) => `${901 + k},${7001 + n!},${3001 + e!},${10 + 0.05 * (n! + 1)},BED1${k === 3 ? " loop" : ""}`),
].join("\n");

const planArea = (page: Page) => page.getByTestId("surface-report").locator("div", { hasText: "Plan area" }).first();

test("the edge is fitted, drawn, frozen; holes are cut; it is seen on the sheet before it is kept", async ({
  page,
}) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Edges");
  await takeIn(page, "day1.txt", TEXT, 149);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  // The lattice, and the triangle to the point far off.
  await expect(planArea(page)).toContainText("22 550.0 m²");
  const edge = page.getByRole("combobox", { name: "Edge", exact: true });
  await edge.selectOption("fit");
  await settled(page);
  const gap = page.getByLabel("Gap, m", { exact: true });
  await gap.fill("12");
  await expect(page.getByText(/It would hold 1\d\d points on 12\s100\.0\sm², 1 outside/)).toBeVisible();
  await gap.press("Enter");
  await settled(page);
  await expect(planArea(page)).toContainText("12 100.0 m²");
  await expect(page.getByTestId("surface-report")).toContainText("Points outside1");
  await expect(page.getByText("Tied to its rule: it follows the points.")).toBeVisible();

  // By the slider, with keys: each step is seen, the last is kept.
  const slider = page.getByRole("slider", { name: "Widest gap" });
  await slider.focus();
  await page.keyboard.press("ArrowRight");
  await settled(page);
  await expect(gap).toHaveValue("12.3");

  await page.getByLabel("Holes from closed lines").selectOption("BED");
  await settled(page);
  await expect(planArea(page)).toContainText("11 700.0 m²");
  await edge.selectOption("ring");
  await page.getByRole("button", { name: "Freeze it as it is" }).click();
  await settled(page);
  await expect(page.getByText(/Frozen: a ring of \d+ corners/)).toBeVisible();
  await expect(planArea(page)).toContainText("11 700.0 m²");

  await page.getByRole("button", { name: "Whole job" }).click();
  await page.getByRole("button", { name: "Draw the edge" }).click();
  for (const [e, n] of [
    [3000, 7000],
    [3050, 7000],
    [3050, 7110],
    [3000, 7110],
  ] as const) {
    const [x, y] = await pixelOnSheet(page, e, n);
    await page.mouse.click(x, y);
  }
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByText("Frozen: a ring of 4 corners")).toBeVisible();
  // 50 m by 110 m with 9 m by 20 m of the bed left out, as well as a hand points.
  const shown = Number((await planArea(page).innerText()).replace(/[^\d.]/g, "").replace(/2$/, ""));
  expect(Math.abs(shown - 5320)).toBeLessThan(120);
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(planArea(page)).toContainText("11 700.0 m²");
  await page.getByRole("button", { name: "Take hole 1 away" }).click();
  await settled(page);
  await expect(planArea(page)).toContainText("12 100.0 m²");
});

test("lines in and out, thinned with its effect said before", async ({ page }) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Lines in");
  const tops = Array.from(
    { length: 11 },
    (_, k) => `${300 + k},${7033 + 0.01 * (k % 2)},${3005 + 10 * k},${11.65 + 0.004 * (k % 3)},TOP1`,
  );
  await takeIn(page, "day1.txt", [TEXT, ...tops].join("\n"), 160);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const report = page.getByTestId("surface-report");
  await expect(report).toContainText("Breaklines used2");
  await page.getByLabel("Nearly straight within, m").fill("0.05");
  await expect(
    page.getByRole("status").filter({ hasText: "9 vertices would be left out, a level changed by 0.00" }),
  ).toBeVisible();
  await page.getByLabel("Nearly straight within, m").press("Enter");
  await settled(page);
  await expect(report).toContainText(/Left out as straight9, at most 0\.00\d m in level/);
  await goTo(page, "Lines");
  await page.getByText("TOP 1").first().click();
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "1 selected line out" }).click();
  await settled(page);
  await expect(report).toContainText("Breaklines used1");
  await page.getByRole("button", { name: /Take TOP 1 .*out of the list/ }).click();
  await settled(page);
  await expect(report).toContainText("Breaklines used2");
});
