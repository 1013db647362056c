import { expect, test, type Page } from "./test";
import { as, cell, editCell, goTo, newJob, openAs, settled, takeIn } from "./helpers";

const options = (page: Page) => page.getByRole("listbox", { name: "Findings" }).getByRole("option");
const chosen = (page: Page) => page.getByRole("region", { name: "The chosen finding" });
/** All is stored, and the levels have been checked as well. */
async function checked(page: Page): Promise<void> {
  await settled(page);
  await expect(page.getByText("levels are being checked")).toHaveCount(0);
}

test("all findings of the demo are repaired or accepted by at most sixty keys", async ({ page }) => {
  test.setTimeout(180_000);
  await openAs(page, "Petra", "/");
  const jobs = (await (await page.request.get("/api/jobs")).json()) as { id: number; name: string }[],
    demo = jobs.find((j) => j.name === "Gorsefold Quarry")!;
  const { id } = (await (
    await page.request.post("/api/jobs", { data: { copy: demo.id, name: "Quarry, all keys" } })
  ).json()) as { id: number };
  await page.goto(`/jobs/${id}/volumes`);
  await checked(page);
  let keys = 0;
  const press = async (key: string) => {
    keys++;
    await page.keyboard.press(key);
  };
  // What is repaired, by which of the repairs offered; the rest is accepted.
  const repairs: [RegExp, string, RegExp][] = [
    [/zero elevation/, "1", /level of its neighbours/],
    [/“SOPT”/, "1", /Write SPOT in place of SOPT/],
    [/single point line/, "1", /stand alone/],
    [/breaklines cross/, "1", /^1\s*Bring DITCH 1 to the levels of the 2 lines/],
    [/spike/, "2", /out of surfaces/],
    [/height run/, "1", /target height of 24 shots from 1\.65 m to 2\.05 m/],
  ];
  await press("f");
  await expect(options(page).first()).toBeVisible();
  await expect(page.getByText("levels are being checked")).toHaveCount(0);
  const done: string[] = [];
  for (let count = await options(page).count(), wrote = false; count > 0;) {
    const now = page.getByRole("option", { selected: true }).and(options(page));
    await expect(now).toHaveCount(1);
    const text = await now.innerText(),
      repair = repairs.find(([what]) => what.test(text));
    if (repair) {
      await expect(chosen(page).getByRole("list", { name: "Repairs" })).toContainText(/\w/);
      await press(repair[1]);
      await expect(chosen(page).getByRole("button", { pressed: true })).toContainText(repair[2]);
      // Its effect stands there before it is taken.
      await expect(chosen(page).getByRole("table", { name: "Effect of the repair" })).toContainText(
        /→|Findings that go/,
      );
      // And the sheet shows where contours would be.
      if (/spike/.test(text)) await expect(page.getByTestId("sheet")).toHaveAttribute("data-tried", /^[1-9]/);
      if (/height run/.test(text))
        await expect(chosen(page).getByRole("table")).toContainText(/24 points, target height\s*1\.65 m → 2\.05 m/);
      await press("Enter");
      await expect(page.getByTestId("sheet")).not.toHaveAttribute("data-tried");
    } else {
      await press("a");
      await expect(chosen(page).getByLabel(/[Bb]ecause/)).toBeFocused();
      if (!wrote) for (const letter of "seen") await press(letter);
      wrote = true;
      await press("Enter");
    }
    done.push(text);
    await expect(options(page).filter({ hasText: text.split("\n").at(-1)! })).toHaveCount(0);
    await checked(page);
    count = await options(page).count();
  }
  console.log(`${done.length} findings settled by ${keys} keys`);
  expect(keys).toBeLessThanOrEqual(60);
  await expect(page.getByText("Nothing is left to look at.")).toBeVisible();
  await page.reload();
  await page.getByTestId("sheet").waitFor();
  await checked(page);
  await expect(page.getByRole("tab", { name: /^Findings 0/ })).toBeVisible();
  await expect(page.getByText(/to look at/)).toHaveCount(0);
  // The recipe says what was accepted.
  const recipe = (await (await page.request.get(`/api/jobs/${id}/recipe`)).text()).slice(0, 5_000_000);
  expect(recipe).toContain('"reason": "seen"');
});

const NOISE = [0, 0.01, -0.01, 0.006, -0.004, 0.012, -0.008];
/** A lattice of 8 m on a slope; the point in its middle is 0.9 m too high. */
const SPIKED = Array.from({ length: 81 }, (_, k) => {
  const [row, col] = [Math.floor(k / 9), k % 9],
    z = 50 + 0.2 * row + 0.1 * col + NOISE[k % 7]! + (k === 40 ? 0.9 : 0);
  return `${k + 1},${7000 + 8 * row},${3000 + 8 * col},${z.toFixed(3)},SPOT`;
}).join("\n");

test("a spike is accepted with a reason, opens again when its level changes, and undo brings both back", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Spiked");
  await takeIn(page, "day1.txt", SPIKED, 81);
  await page.keyboard.press("f");
  const spike = options(page).filter({ hasText: /spike\s*Point 41 stands 0\.\d+ m above/ });
  await expect(spike).toHaveCount(1);
  await spike.click();
  await expect(chosen(page).getByRole("img", { name: /the point itself 52\.\d\d m/ })).toBeVisible();
  await page.getByRole("listbox", { name: "Findings" }).focus();
  await page.keyboard.press("a");
  await page.keyboard.type("a boulder");
  await page.keyboard.press("Enter");
  await expect(spike).toHaveCount(0);
  await checked(page);
  await page.getByLabel("Which findings").selectOption("accepted");
  await expect(spike).toContainText("Accepted: a boulder");
  // What others do to it leaves it settled; its own level does not.
  await goTo(page, "Points");
  await editCell(page, "40", "Elevation", "51.100");
  await checked(page);
  await expect(spike).toHaveCount(1);
  await editCell(page, "41", "Elevation", "52.8");
  await checked(page);
  await expect(spike).toHaveCount(0);
  await page.getByLabel("Which findings").selectOption("open");
  await expect(options(page).filter({ hasText: /Point 41 stands 1\.\d+ m above/ })).toHaveCount(1);
  await page.getByRole("button", { name: "Undo" }).click();
  await checked(page);
  await expect(spike).toHaveCount(0);
  await page.getByLabel("Which findings").selectOption("accepted");
  await spike.click();
  await chosen(page).getByRole("button", { name: "Open it again" }).click();
  await checked(page);
  await page.getByLabel("Which findings").selectOption("open");
  await expect(spike).toHaveCount(1);

  // A repair that is only looked at changes nothing; taken, it can be undone.
  await spike.click();
  await page.getByRole("listbox", { name: "Findings" }).focus();
  await page.keyboard.press("1");
  await expect(chosen(page).getByRole("table", { name: "Effect of the repair" })).toContainText(/Point 41, elevation/);
  // The table says what would stand there.
  const would = page.getByTitle("As the repair would make it");
  await expect(would).toHaveText(/^51\./);
  await page.keyboard.press("Escape");
  await expect(chosen(page).getByRole("table")).toHaveCount(0);
  await expect(would).toHaveCount(0);
  await expect(await cell(page, "41", "Elevation")).toHaveText(/^52\./);
  await page.keyboard.press("1");
  await page.keyboard.press("Enter");
  await expect(await cell(page, "41", "Elevation")).toHaveText(/^51\./);
  await checked(page);
  await expect(spike).toHaveCount(0);
  await page.getByRole("tab", { name: /^Ledger/ }).click();
  await expect(page.getByRole("row", { name: /Finding accepted/ })).toContainText(
    /Finding spike 41\s*to look at\s*accepted: a boulder/,
  );
});

test("an attribute that is missing is said in the tray, and a shot that stands alone is joined", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Said");
  const lines = ["1,7000,3000,10,HEDGE1", "2,7000,3040,10,HEDGE1", "3,7000,3060,10,HEDGE2", "4,7030,3030,10,TREE"];
  await takeIn(page, "day1.txt", lines.join("\n"), 4);
  await page.keyboard.press("f");
  const missing = options(page).filter({ hasText: /attribute missing/ });
  await missing.click();
  await page.getByRole("listbox", { name: "Findings" }).focus();
  await page.keyboard.press("1");
  await page.keyboard.type("wide");
  await expect(chosen(page).getByRole("alert")).toHaveText(/spread of this point is a number/);
  await expect(chosen(page).getByRole("button", { name: /Take this repair/ })).toHaveCount(0);
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("4.5");
  await expect(chosen(page).getByRole("table")).toContainText(/Point 4, attributes\s*none → spread 4\.5/);
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(missing).toHaveCount(0);
  await options(page)
    .filter({ hasText: /single point line/ })
    .click();
  await chosen(page)
    .getByRole("button", { name: /Join it to HEDGE 1 at 2, 20\.000 m away/ })
    .click();
  await expect(chosen(page).getByRole("table")).toContainText(/Line HEDGE 1\s*40\.000 m → 60\.000 m/);
  await chosen(page)
    .getByRole("button", { name: /Take this repair/ })
    .click();
  await settled(page);
  await expect(options(page).filter({ hasText: /single point line/ })).toHaveCount(0);
});

test("a crossing is stepped to and settled by a key: the drain runs below the kerb", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Crossing");
  const rows = [
    ...Array.from(
      { length: 49 },
      (_, k) => `${100 + k},${7000 + 10 * Math.floor(k / 7)},${3000 + 10 * (k % 7)},11,SPOT`,
    ),
    ...[3003, 3018, 3033, 3048].map((e, k) => `${1 + k},7028,${e},9.6,TOP2`),
    ...[7012, 7022, 7036, 7048].map((n, k) => `${11 + k},${n},3024,11.2,TOP1`),
  ];
  await takeIn(page, "day1.txt", rows.join("\n"), 57);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await checked(page);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("f");
  const crossing = options(page).filter({ hasText: "breaklines cross" });
  await crossing.click();
  // Both levels are told, and each way out has its key.
  await expect(crossing).toContainText(/9\.600 m and 11\.200 m|11\.200 m and 9\.600 m/);
  const below = chosen(page).getByRole("button", {
    name: /TOP 2 runs below between 2 and 3: drawn there, no breakline/,
  });
  await expect(below).toBeVisible();
  for (const way of [
    /Lower TOP 1/,
    /Raise TOP 2/,
    /Leave TOP 1 out/,
    /Accept the mean level there/,
    /Split TOP 2 between 2 and 3/,
  ])
    await expect(chosen(page).getByRole("button", { name: way })).toBeVisible();
  const key = (await below.locator("kbd").innerText()).trim();
  await crossing.focus();
  await page.keyboard.press(key);
  await expect(below).toHaveAttribute("aria-pressed", "true");
  await expect(chosen(page).getByRole("table", { name: "Effect of the repair" })).toContainText("Findings that go");
  await page.keyboard.press("Enter");
  await checked(page);
  await expect(crossing).toHaveCount(0);
  // Drawn as before; no breakline of the surface there.
  await expect(page.getByTestId("sheet-described").getByRole("row", { name: /^TOP 2 1 2 3 4 open/ })).toHaveCount(1);
  await expect(page.getByTestId("surface-report")).toContainText("Breaklines used2");
  await page.keyboard.press("Control+z");
  await checked(page);
  await expect(crossing).toHaveCount(1);
  // Joined: both lines have one shot more, a point of the job's next number.
  await crossing.click();
  const join = chosen(page).getByRole("button", { name: /Join both there by a point at 10\.400 m, the mean level/ });
  await expect(join).toBeVisible();
  await crossing.focus();
  await page.keyboard.press((await join.locator("kbd").innerText()).trim());
  await expect(chosen(page).getByRole("table", { name: "Effect of the repair" })).toContainText("Findings that go");
  await page.keyboard.press("Enter");
  await checked(page);
  await expect(crossing).toHaveCount(0);
  const described = page.getByTestId("sheet-described");
  await expect(described.getByRole("row", { name: /^TOP 2 1 2 149 3 4 open/ })).toHaveCount(1);
  await expect(described.getByRole("row", { name: /^TOP 1 11 12 149 13 14 open/ })).toHaveCount(1);
  // The id is the server's: what was joined is stored, and there after a reload.
  await page.reload();
  await expect(described.getByRole("row", { name: /^TOP 2 1 2 149 3 4 open/ })).toHaveCount(1);
});
