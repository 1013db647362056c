/** Every place, light and dark, at four sizes: nothing cut, and nothing that a screen reader would stumble over. */
import { expect, test } from "./test";
import AxeBuilder from "@axe-core/playwright";
import { openAs, settled } from "./helpers";

const PLACES = ["Intake", "Points", "Lines", "Surface", "Volumes", "Handover", "Book", "Settings"];
const SIZES = [
  [1024, 700],
  [640, 400],
  [1920, 1080],
  [1280, 800],
] as const;
/** Of what a screen reader needs these alone depend on the theme. */
const BY_THEME = ["color-contrast", "link-in-text-block"];

test("every place is sound to a screen reader, light and dark, and nothing is cut or overlaps at any size", async ({
  page,
}) => {
  test.setTimeout(420_000);
  await openAs(page, "Petra", "/");
  await expect(page.getByRole("link", { name: "Gorsefold Quarry" })).toBeVisible();
  const inTheme = (theme: "light" | "dark") =>
    page.evaluate((t) => void (document.documentElement.dataset.theme = t), theme);
  const check = async (where: string) => {
    for (const theme of ["light", "dark"] as const) {
      await inTheme(theme);
      // What is sound is not listed: to name each such element takes longer than to look at it.
      const look = new AxeBuilder({ page }).options({ resultTypes: ["violations"] }),
        { violations } = await (theme === "light" ? look : look.withRules(BY_THEME)).analyze();
      const told = violations.map(
        (v) => `${where}, ${theme}: ${v.id}, ${v.nodes.map((n) => n.target.join(" ")).join("; ")}`,
      );
      expect.soft(told).toEqual([]);
    }
    await inTheme("light");
  };
  await check("jobs");
  await page.getByRole("link", { name: "Gorsefold Quarry" }).click();
  await settled(page);
  const go = async (place: string) => {
    await page.getByRole("link", { name: new RegExp(`^${place}`) }).click();
    await expect(page.getByRole("heading", { level: 1, name: place })).toBeVisible();
    await settled(page);
  };
  for (const place of PLACES) {
    await go(place);
    await check(place);
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height });
      await page.evaluate(() => new Promise((shown) => requestAnimationFrame(() => requestAnimationFrame(shown))));
      const where = `${place} at ${width} by ${height}`;
      expect.soft(await beyondTheWindow(page), `${where}: beyond the window`).toEqual([]);
      expect.soft(await overlapping(page), `${where}: over one another`).toEqual([]);
    }
  }
  await go("Points");
  await page.getByRole("tab", { name: /^Sets/ }).click();
  await page.getByRole("button", { name: "poor precision" }).click();
  await expect(page.getByTestId("set-counts")).toBeVisible();
  await check("sets");
  await page.getByRole("tab", { name: "Table" }).click();
  await page.getByRole("button", { name: "Conditions" }).click();
  await page.getByLabel("Add a condition").selectOption("elevation");
  await page.getByRole("button", { name: "Columns" }).click();
  await page.getByRole("row").nth(2).getByRole("gridcell").first().click();
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await check("conditions, columns and a change of many");
  await go("Volumes");
  for (const tab of ["As built", "Report"]) {
    await page.getByRole("tab", { name: tab }).click();
    await check(tab);
  }
  await go("Settings");
  await page.keyboard.press("f");
  await check("findings");
  await page.keyboard.press("l");
  await check("ledger");
  await page.getByRole("button", { name: "Compare states" }).click();
  await expect(page.getByRole("table", { name: "Figures between the states" })).toBeVisible({ timeout: 60_000 });
  await check("two states");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Look of the sheet" }).click();
  await check("look of the sheet");
  await page.getByRole("button", { name: /^Go to G/ }).click();
  await check("go to");
});

type Page = Parameters<typeof settled>[0];

/** What can be pressed and stands outside the window, though nothing scrolls to it. */
function beyondTheWindow(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const scrolls = (el: Element | null): boolean => {
      for (let e = el; e && e !== document.body; e = e.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(e);
        if (/auto|scroll/.test(overflowX + overflowY)) return true;
      }
      return false;
    };
    return [...document.querySelectorAll("a, button, input, select, textarea, [role=tab]")]
      .filter((el) => {
        const r = el.getBoundingClientRect();
        if (r.width < 2 || r.height < 2 || el.closest(".sr-only") || scrolls(el.parentElement)) return false;
        return r.left < -1 || r.top < -1 || r.right > innerWidth + 1 || r.bottom > innerHeight + 1;
      })
      .map((el) => `${el.tagName} ${(el.getAttribute("aria-label") ?? el.textContent ?? "").slice(0, 40)}`);
  });
}

/** Pairs of controls in the window that lie over one another. */
function overlapping(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    /** The part of an element that its scrolling frames let be seen. */
    const seen = (el: Element) => {
      let { left, top, right, bottom } = el.getBoundingClientRect();
      for (let e = el.parentElement; e; e = e.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(e);
        if (!/auto|scroll|hidden/.test(overflowX + overflowY)) continue;
        const f = e.getBoundingClientRect();
        [left, top, right, bottom] = [
          Math.max(left, f.left),
          Math.max(top, f.top),
          Math.min(right, f.right),
          Math.min(bottom, f.bottom),
        ];
      }
      return { left, top, right, bottom, width: right - left, height: bottom - top };
    };
    const name = (el: Element) => (el.getAttribute("aria-label") ?? el.textContent ?? "").trim().slice(0, 30);
    const all = [...document.querySelectorAll("a, button, input:not([type=checkbox]), select, textarea")]
      .filter((el) => !el.closest(".sr-only"))
      .map((el) => ({ el, r: seen(el) }))
      // What is scrolled out of its frame is not seen.
      .filter(({ el, r }) => {
        if (r.width < 2 || r.height < 2) return false;
        const at = document.elementFromPoint(r.left + r.width / 2, r.top + r.height / 2);
        return at !== null && (el.contains(at) || at.contains(el));
      });
    const out: string[] = [];
    all.forEach((a, i) => {
      for (const b of all.slice(i + 1)) {
        if (a.el.contains(b.el) || b.el.contains(a.el)) continue;
        const w = Math.min(a.r.right, b.r.right) - Math.max(a.r.left, b.r.left),
          h = Math.min(a.r.bottom, b.r.bottom) - Math.max(a.r.top, b.r.top);
        if (w > 2 && h > 2) out.push(`${name(a.el)} / ${name(b.el)}`);
      }
    });
    return out;
  });
}
