import { expect, test } from "./test";
import { as, goTo, newJob, settled, takeIn } from "./helpers";

test.beforeEach(({ page }) => as(page, "Petra"));

const COURSES = `Thence N 0°00' E, 40.00
arc right radius 30 angle 180 towards N 90 E
S 0 E 40.00
S 89°59'00" E 60.00`;

test("a string that closes badly says by which course, closes, is made as points and a plot, follows its start, and is undone", async ({
  page,
}) => {
  await newJob(page, "Deed", { order: "EN" });
  await takeIn(page, "day1.csv", "1,100,200,5,SPOT\n2,150,250,5,SPOT", 2);
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  await page.getByRole("tab", { name: "By courses of a document" }).click();
  const form = page.getByRole("form", { name: "Courses of a document" }),
    make = form.getByRole("button", { name: "Make it" }),
    closure = form.getByTestId("closure");
  await expect(form.getByRole("status")).toContainText("It starts at a point");
  await form.getByLabel("Starts at").fill("77");
  await expect(form.getByRole("status")).toContainText("There is no point 77.");
  await form.getByLabel("Starts at").fill("1");
  await form.getByLabel("Courses, one a line").fill(`${COURSES}\nfence`);
  await expect(form.getByRole("alert")).toContainText("“fence” is no course");
  await expect(make).toBeDisabled();
  await form.getByLabel("Courses, one a line").fill(COURSES);
  // Its last course was written the wrong way.
  await expect(closure).toContainText("It fails to close by 120.000 m");
  await expect(form).toContainText("Line 4 with east and west exchanged");
  await form.locator("p", { hasText: "Line 4 run the other way" }).getByRole("button", { name: "Read it so" }).click();
  await expect(closure).toContainText("It fails to close by 0.017 m, 180°00′30″, 1 in 13");
  await expect(make).toBeDisabled();
  await form.getByLabel("Share the error out by length").check();
  await expect(closure).toContainText("shared out in proportion to length");
  await form.getByLabel("Code").selectOption("WATER");
  await form.getByLabel("Its own name").fill("Plot 14");
  await form.getByLabel("First number").fill("901");
  await make.click();
  await settled(page);
  await expect(page.getByRole("status").filter({ hasText: "“Plot 14” made of 4 courses" })).toBeVisible();
  const table = page.getByRole("region", { name: "Bench" }).getByRole("table").first(),
    row = table.getByRole("row", { name: /WATER Plot 14/ });
  // 60 by 40 and half a circle of 30.
  await expect(row).toContainText("3 81");
  await expect(row).toContainText("234.248");

  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(row).toHaveCount(0);
  await page.getByRole("button", { name: "Redo" }).click();
  await settled(page);
  await expect(row).toHaveCount(1);
  await goTo(page, "Points");
  await expect(page.getByRole("row", { name: /^\S* ?901/ })).toBeVisible();
});
