import { expect, test } from "@playwright/test";
import { choose, editCell, goTo, newJob, openAs, settled, takeIn } from "./helpers";

const TEXT = [1, 2, 3, 4, 5, 6].map((n) => `${n},${10 * n},${20 + (n % 2) * 5},5,HEDGE2${n === 6 ? " end" : ""}`).join("\n");

test.beforeEach(async ({ page }) => openAs(page, "Petra", "/"));

test("a line is split, closed and joined by cues that survive another reading of its file, and are undone", async ({ page }) => {
  await newJob(page, "Linework", { order: "EN" });
  await takeIn(page, "day1.csv", TEXT, 6);
  await goTo(page, "Lines");
  const table = page.getByRole("region", { name: "Bench" }).getByRole("table").first();
  await page.getByRole("button", { name: "HEDGE 2" }).click();
  await page.getByRole("button", { name: "Split after 3" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(2);

  await goTo(page, "Intake");
  await page.getByRole("article", { name: "Intake day1" }).getByRole("button", { name: "Read again" }).click();
  await page.getByLabel("Kind of points").selectOption("design");
  await page.getByRole("button", { name: "Read again 6 points" }).click();
  await expect(page.getByRole("status")).toContainText("was read again");
  await settled(page);
  await goTo(page, "Lines");
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(2);

  await page.getByRole("button", { name: "HEDGE 2" }).first().click();
  await page.getByRole("button", { name: "HEDGE 2" }).nth(1).click({ modifiers: ["Control"] });
  await page.getByRole("button", { name: "Join them" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(1);
  await page.getByRole("button", { name: "HEDGE 2" }).click();
  await page.getByRole("button", { name: "Take 4 out of the line" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toContainText("5");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(2);
});

test("made corners, a parallel of the book and a smooth curve are drawn and told", async ({ page }) => {
  await newJob(page, "Cues", { order: "EN" });
  await choose(page, "day1.csv", ["1,0,0,5,SLAB1", "2,10,0,5,SLAB1 box=4", "3,20,0,5,KERB", "4,30,0,5,KERB end", "5,40,0,5,WATER flow", "6,50,5,5,WATER", "7,45,15,5,WATER loop"].join("\n"));
  await page.getByRole("button", { name: "Take in 7 points" }).click();
  await expect(page.getByRole("status")).toContainText("7 points taken in");
  await goTo(page, "Lines");
  const row = (name: RegExp) => page.getByRole("region", { name: "Bench" }).getByRole("table").first().getByRole("row", { name });
  await expect(row(/SLAB 1/)).toContainText("40.0");
  await expect(row(/KERBTOP/)).toContainText("parallel");
  await expect(row(/WATER/)).toContainText("closed, curved");
  await page.getByRole("button", { name: "KERBTOP" }).click();
  await expect(page.getByRole("region", { name: "Bench" })).toContainText("Parallel toKERB");
  await goTo(page, "Points");
  await editCell(page, "2", "Description", "SLAB1 box=6");
  await goTo(page, "Lines");
  await expect(row(/SLAB 1/)).toContainText("60.0");
});
