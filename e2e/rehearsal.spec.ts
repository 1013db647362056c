import { expect, test, type Page } from "./test";
import { cell, compareWith, goTo, jobWithSurface, LATTICE, openAs, raise, settled } from "./helpers";

/** A lattice, with a wall across it whose code the book does not know. */
const ROWS = [...LATTICE, ...[1, 2, 3].map((k) => `${200 + k},${7054},${3000 + 30 * k},11,HEDGE1`)];

async function begin(page: Page, name: string): Promise<string> {
  const id = await jobWithSurface(page, name, ROWS);
  await compareWith(page, 9);
  return id;
}

const ledgerOf = async (page: Page, id: string) =>
  ((await (await page.request.get(`/api/jobs/${id}/ledger?after=0`)).json()) as { seq: number }[]).length;

test("a rehearsal shows before and after, and dropped it leaves nothing; taken it is stored", async ({
  page,
  context,
}) => {
  const id = await begin(page, "Rehearsed"),
    before = await ledgerOf(page, id),
    state = async () => (await page.request.get(`/api/jobs/${id}/state`)).body();
  const stored = await state();
  // Somebody else looks on.
  const other = await context.newPage();
  await openAs(other, "Quill", `/jobs/${id}/volumes`);
  const cutSeen = () => other.getByTestId("cut").getAttribute("data-value");
  await expect.poll(cutSeen).not.toBeNull();
  const cut = await cutSeen();

  await goTo(page, "Points");
  const standing = async () => (await (await cell(page, "14", "Elevation")).boundingBox())!.y,
    stood = await standing();
  await page.getByRole("button", { name: "Rehearse" }).click();
  const panel = page.getByRole("region", { name: "Rehearsal" }),
    saved = page.getByTestId("saved");
  await expect(panel).toContainText("nothing is stored until you take it");
  await expect(saved).toHaveText("Rehearsal, not stored");
  await raise(page, "14", "13");
  const effect = panel.getByRole("table", { name: "Volumes and surfaces in the rehearsal" });
  // Six triangles of 50 m² with one corner 3 m higher.
  await expect(effect).toContainText(/to 9, net.*−300\.0\sm³/);
  await expect(panel).toContainText("1 change, not stored");
  // It lies over the sheet: no row of the table moved.
  expect(await standing()).toBe(stood);
  // Settings and the book too.
  await page.getByRole("link", { name: "Settings" }).click();
  await page.getByLabel("Client").fill("Trust");
  await page.getByLabel("Client").press("Tab");
  await expect(panel).toContainText("2 changes, not stored");
  await expect(saved).toHaveText("Rehearsal, not stored");

  // Nothing of it has left the window; what would is refused in words.
  expect(await ledgerOf(page, id)).toBe(before);
  expect(Buffer.compare(await state(), stored)).toBe(0);
  expect(await cutSeen()).toBe(cut);
  // Undo takes back in the rehearsal alone.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(panel).toContainText("1 change, not stored");
  await page.getByRole("button", { name: "Redo" }).isDisabled();

  await panel.getByRole("button", { name: "Drop it" }).click();
  await expect(panel).toHaveCount(0);
  await settled(page);
  await goTo(page, "Volumes");
  await expect.poll(() => page.getByTestId("cut").getAttribute("data-value")).toBe(cut);
  expect(await ledgerOf(page, id)).toBe(before);
  expect(Buffer.compare(await state(), stored)).toBe(0);
  // Opened again, nothing of it comes back.
  await page.reload();
  await settled(page);
  expect(await ledgerOf(page, id)).toBe(before);

  // Once more, and taken.
  await goTo(page, "Points");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("r");
  await raise(page, "14", "13");
  await expect(effect).toContainText(/to 9, net/);
  await panel.getByRole("button", { name: "Take it" }).click();
  await settled(page);
  expect(await ledgerOf(page, id)).toBe(before + 1);
  await expect.poll(async () => Number(await cutSeen())).toBeCloseTo(Number(cut) + 300, 6);
});

test("a window closed in a rehearsal takes it along; deliveries wait until it is over", async ({ page }) => {
  const id = await begin(page, "Closed in rehearsal"),
    before = await ledgerOf(page, id);
  await goTo(page, "Points");
  await page.getByRole("button", { name: "Rehearse" }).click();
  await raise(page, "14", "13");
  await expect(page.getByRole("region", { name: "Rehearsal" })).toContainText("1 change, not stored");
  await goTo(page, "Intake");
  await page.getByRole("button", { name: "Withdraw" }).first().click();
  const sure = page.getByRole("button", { name: /^Withdraw/ });
  if ((await sure.count()) > 1) await sure.last().click();
  await expect(page.getByText("A rehearsal is on, and this would be stored at once")).toBeVisible();
  await page.reload();
  await settled(page);
  await expect(page.getByRole("region", { name: "Rehearsal" })).toHaveCount(0);
  expect(await ledgerOf(page, id)).toBe(before);
});

test("another reading of a delivery is rehearsed: before and after, dropped, then taken", async ({ page }) => {
  const id = await begin(page, "Read in rehearsal"),
    before = await ledgerOf(page, id);
  await goTo(page, "Intake");
  await page.getByRole("article", { name: "Intake day1" }).getByRole("button", { name: "Read again" }).click();
  await page.getByRole("button", { name: "Exchange northing and easting" }).click();
  const rehearse = page.getByRole("button", { name: "Rehearse it" }),
    dialog = page.getByRole("dialog", { name: "“day1.txt” read again: a rehearsal" }),
    points = dialog.getByRole("table", { name: "Points between the states" });
  await rehearse.click();
  await expect(points).toContainText("Point 1, northing7000.000 m → 3000.000 m");
  await expect(dialog).toContainText("0 came, 0 went, 124 changed");
  await expect(dialog.getByRole("table", { name: "Figures between the states" })).toHaveCount(0);
  await dialog.getByRole("button", { name: "Drop it" }).click();
  expect(await ledgerOf(page, id)).toBe(before);
  await rehearse.click();
  await expect(points).toBeVisible();
  await dialog.getByRole("button", { name: "Take it" }).click();
  await expect(page.getByRole("status")).toContainText("“day1.txt” was read again");
  expect(await ledgerOf(page, id)).toBe(before + 1);
});
