import { expect, test, type Page } from "@playwright/test";
import { cell, goTo, newJob, openAs, settled, takeIn } from "./helpers";

/** A lattice of 10 m at level 10, with a wall across it whose code the book does not know. */
const TEXT = [
  ...Array.from({ length: 121 }, (_, k) => {
    const [row, col] = [Math.floor(k / 11), k % 11];
    return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},10,SPOT`;
  }),
  ...[1, 2, 3].map((k) => `${200 + k},${7054},${3000 + 30 * k},11,HEDGE1`),
].join("\n");

async function begin(page: Page, name: string): Promise<string> {
  await openAs(page, "Petra", "/");
  await newJob(page, name);
  await takeIn(page, "day1.txt", TEXT, 124);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const id = page.url().split("/")[4]!;
  const made = await page.request.post(`/api/jobs/${id}/changes`, {
    data: {
      type: "named",
      part: "volumes",
      name: "to 9",
      old: null,
      new: { name: "to 9", surface: "existing ground", level: 9 },
    },
    headers: { "x-author": "Petra" },
  });
  expect(made.ok()).toBe(true);
  await settled(page);
  return id;
}

const ledgerOf = async (page: Page, id: string) =>
  ((await (await page.request.get(`/api/jobs/${id}/ledger?after=0`)).json()) as { seq: number }[]).length;

async function raise(page: Page, point: string, level: string): Promise<void> {
  const c = await cell(page, point, "Elevation");
  await c.click();
  await page.keyboard.press("F2");
  await c.getByRole("textbox").fill(level);
  await page.keyboard.press("Enter");
}

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
