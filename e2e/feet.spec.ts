/** An office in US survey feet: from observations with a mistyped backsight to stations, volumes and a report. */
import { execFileSync } from "node:child_process";
import { expect, test } from "./test";
import { surveyXml, type TrueTarget } from "../core/test/survey";
import { makeJob, choose, goTo, openAs, settled } from "./helpers";

const K1 = { number: "K1", e: 5000, n: 8000, z: 120 },
  K33 = { number: "33", e: 5310, n: 8260, z: 131 };
/** A bank of three feet along an axis: spots every 25 ft, the axis through their middle, a tree. */
function targets(): TrueTarget[] {
  const all: TrueTarget[] = [];
  const shot = (number: number, e: number, n: number, z: number, code: string) =>
    all.push({ number: String(number), e, n, z, height: 5, faces: 1, code });
  for (let row = 0; row < 9; row++)
    for (let col = 0; col < 13; col++) {
      const n = 8050 + 25 * row,
        z = 118 + 0.02 * 25 * col + 3 * Math.max(0, 1 - Math.abs(n - 8150) / 75);
      shot(100 + 13 * row + col, 5050 + 25 * col, n, z, "SPOT");
    }
  shot(601, 5050.5, 8150.5, 121, "AXIS1");
  shot(602, 5349.5, 8150.5, 127, "AXIS1");
  shot(603, 5080.2, 8070.3, 118.6, "TREE 51 41.5");
  return all;
}

/** The crew wrote 3 for its backsight 33; lengths in US survey feet. */
const xml = surveyXml([K1, K33], [{ id: "one", at: K1, height: 5.21, zero: 0.7, backsight: K33, targets: targets() }])
  .replace('<Metric linearUnit="meter"', '<Imperial linearUnit="USSurveyFoot"')
  .replaceAll('"33"', '"3"')
  .replace('<CgPoint name="3"', '<CgPoint name="33"');

test("a survey in feet: its backsight is mended, its book is in feet, its stations have a plus, its report too", async ({
  page,
}) => {
  await openAs(page, "Petra", "/");
  await page.getByLabel("Length unit").selectOption("ftUS");
  await expect(page.getByLabel("Code book", { exact: true }).locator("option").first()).toHaveText(
    "General topographic, in feet and inches",
  );
  await makeJob(page, "Bank", { unit: "ftUS", order: "EN" });
  await choose(page, "day1.xml", xml);
  // What the look counts is what is taken in: nothing has a position yet but the control.
  const look = page.getByRole("region", { name: "Bench" });
  await expect(look).toContainText("Backsight 3 has no coordinates");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("status").first()).toContainText(
    "2 points taken in from “day1.xml”; 121 observed points have no position yet",
  );
  await settled(page);
  const article = page.getByRole("article", { name: "Intake day1" });
  await article.getByRole("tab", { name: /Setups/ }).click();
  await article.getByRole("button", { name: "one" }).click();
  const setup = article.getByRole("region", { name: "Setup one" });
  await expect(setup).toContainText("Sight 3 was likely point 33");
  await page.screenshot({ path: process.env.PICTURES ? `${process.env.PICTURES}/feet-setup.png` : undefined });
  await setup.getByRole("button", { name: "3 is 33" }).click();
  await settled(page);
  await expect(setup).toContainText("What was written as 3 is point 33.");
  await expect(setup).toContainText("All shots within tolerance.");
  // A misclosure has the decimals to be seen.
  await expect(setup).toContainText(/Backsight 33: direction off .*, distance off −?0\.\d{3} ftUS/);

  await page.getByRole("link", { name: "Settings" }).click();
  await page.getByLabel("Stations").selectOption("plus");
  await page.getByLabel("Volumes in").selectOption("acft");
  await page.getByLabel("Areas in").selectOption("acre");
  await page.getByLabel("Angles").selectOption("bearing-dms");
  await settled(page);

  await goTo(page, "Lines");
  await page.getByRole("button", { name: "AXIS 1" }).click();
  await page.getByRole("tab", { name: "Stations" }).click();
  const stations = page.getByRole("table", { name: "Stations of AXIS 1" });
  await expect(stations.getByRole("row")).toHaveCount(8);
  await expect(stations.getByRole("row").nth(2)).toContainText("0+50.00");
  await expect(stations.getByRole("row").last()).toContainText("2+99.00");
  const file = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as a table" }).click();
  expect((await file).suggestedFilename()).toBe("stations AXIS 1.csv");
  await page.screenshot({ path: process.env.PICTURES ? `${process.env.PICTURES}/feet-stations.png` : undefined });

  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await goTo(page, "Volumes");
  await page.getByLabel("Name of the comparison").fill("down to 118");
  await page.getByRole("button", { name: "Make it", exact: true }).click();
  await settled(page);
  const level = page.getByLabel("To level, ftUS");
  await level.fill("118");
  await level.press("Enter");
  await settled(page);
  await expect(page.getByRole("table").first()).toContainText("Cut, ac·ft");
  await page.getByRole("combobox", { name: "Sections", exact: true }).selectOption("across line AXIS 1");
  const half = page.getByLabel("To either side, ftUS");
  await expect(half).toBeVisible();
  await half.fill("100");
  await half.press("Enter");
  await settled(page);
  await page.getByText("Areas and volumes by station").click();
  const areas = page.getByRole("table", { name: "End areas by station" });
  await expect(areas.getByRole("row").last()).toContainText("2+99.00");
  // Within the axis, with 100 ft to either side, both say the same to a percent or two.
  const cut = Number(await page.getByTestId("cut").getAttribute("data-value"));
  expect(cut).toBeGreaterThan(100_000);
  await page.screenshot({ path: process.env.PICTURES ? `${process.env.PICTURES}/feet-volumes.png` : undefined });

  await page.getByRole("tab", { name: "Report" }).click();
  await page.getByRole("button", { name: "Make it as PDF" }).click();
  const link = page.getByRole("table", { name: "Reports made" }).getByRole("link", { name: /\.pdf$/ });
  await expect(link).toBeVisible({ timeout: 60_000 });
  const download = page.waitForEvent("download");
  await link.click();
  const report = (await (await download).path())!,
    words = execFileSync("pdftotext", ["-layout", report, "-"], { encoding: "utf8" }).replace(/\s+/g, " ");
  for (const expected of ["ac·ft", "across AXIS 1, from 0+00.00 to 2+99.00", "Section"])
    expect(words).toContain(expected);
  if (process.env.PICTURES)
    execFileSync("pdftoppm", ["-png", "-r", "60", "-l", "3", report, `${process.env.PICTURES}/feet-report`]);
});
