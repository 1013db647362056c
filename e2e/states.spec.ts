import { expect, test } from "./test";
import { compareWith, goTo, jobWithSurface, LATTICE, raise, settled } from "./helpers";

test("a state is kept by name and compared with what the job is later: figures, by which entries, points", async ({
  page,
}) => {
  const id = await jobWithSurface(page, "States", LATTICE),
    seq = await compareWith(page, 9);

  await goTo(page, "Points");
  const ledger = page.getByRole("tab", { name: /Ledger/ }),
    dialog = page.getByRole("dialog");
  await ledger.click();
  await page.getByRole("button", { name: "Name this state" }).click();
  await expect(dialog.getByLabel("As the job was after entry")).toHaveValue(String(seq));
  await dialog.getByLabel("As the job was after entry").fill(String(seq + 5));
  await expect(dialog).toContainText(`The ledger has entries 1 to ${seq}.`);
  await dialog.getByLabel("As the job was after entry").fill(String(seq));
  await dialog.getByLabel("Name of the state").fill("as received");
  await page.keyboard.press("Enter");
  const state = page.getByRole("row", { name: /as received state of the job/ });
  await expect(state).toBeVisible();
  await expect(page.getByRole("row", { name: /State “as received” named/ })).toContainText(`after entry ${seq}`);

  // Six triangles of 50 m² at each inner point: one goes up 3 m and comes back, another up 6 m.
  await raise(page, "14", "13");
  await settled(page);
  await raise(page, "15", "16");
  await settled(page);
  await raise(page, "14", "10");
  await settled(page);
  await state.getByRole("button", { name: "Compare with now" }).click();
  const figures = dialog.getByRole("table", { name: "Figures between the states" });
  const row = (name: string) => figures.getByRole("row", { name });
  await expect(row("to 9, cut")).toContainText("600.0 m³");
  await expect(dialog.getByRole("table", { name: "Points between the states" })).toContainText(
    "Point 15, elevation10.000 m → 16.000 m",
  );
  await expect(dialog).toContainText("0 came, 0 went, 1 changed");
  // The way there: each entry with what it moved.
  await expect(row("to 9, net")).toContainText("steps");
  await expect(figures).toContainText(`${seq + 3} Petra: Elevation of 1 point changed`);

  // From before the first entry there is no figure to begin with; the delivery is one of those that made it.
  await dialog.getByRole("combobox", { name: "From" }).selectOption({ label: "before the first entry" });
  await expect(row("to 9, cut")).toContainText("none");
  await expect(dialog).toContainText("121 came, 0 went");
  await dialog.getByRole("combobox", { name: "From" }).selectOption({ label: `as received (after entry ${seq})` });
  await dialog.getByRole("combobox", { name: "To" }).selectOption({ label: `as received (after entry ${seq})` });
  await expect(dialog).toContainText("They are one and the same state.");
  await page.keyboard.press("Escape");
  await expect(dialog).toHaveCount(0);

  // Nothing of it changed the job; another name, and forgotten, and back.
  const before = await (await page.request.get(`/api/jobs/${id}/ledger?after=0`)).json();
  expect(before).toHaveLength(seq + 4);
  await state.getByRole("button", { name: "Rename" }).click();
  await dialog.getByLabel("Name of the state").fill("as it came");
  await page.keyboard.press("Enter");
  const renamed = page.getByRole("row", { name: /as it came state of the job/ });
  await expect(renamed).toBeVisible();
  await renamed.getByRole("button", { name: "Forget" }).click();
  await expect(renamed).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(renamed).toBeVisible();

  // Addresses that ask for states that are not there.
  for (const [asked, why] of [
    ["from=999", "The ledger has no entry 999"],
    ["from=2&to=1", "The earlier state comes first"],
    ["from=x", "from is the number of an entry of the ledger, or 0"],
    ["", "from"],
  ]) {
    const answer = await page.request.get(`/api/jobs/${id}/compare?${asked}`);
    expect(answer.status()).toBe(400);
    expect(((await answer.json()) as { message: string }).message).toContain(why);
  }
});
