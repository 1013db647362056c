/** Every place at three sizes, light and dark: nothing cut, and nothing that a screen reader would stumble over. */
import { expect, test } from "@playwright/test";
import AxeBuilder from "@axe-core/playwright";
import { openAs, settled } from "./helpers";

const PLACES = ["intake", "points", "lines", "surface", "volumes", "handover", "book", "settings"];
const SIZES = [
  [1280, 800],
  [1024, 700],
  [640, 400],
  [1920, 1080],
] as const;

for (const theme of ["light", "dark"] as const) {
  test(`every place is sound to a screen reader, ${theme}`, async ({ page }) => {
    test.setTimeout(420_000);
    await page.addInitScript((t) => localStorage.setItem("theme", t), theme);
    await openAs(page, "Petra", "/");
    await expect(page.getByRole("link", { name: "Gorsefold Quarry" })).toBeVisible();
    const check = async (where: string) => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      const told = violations.map((v) => `${where}: ${v.id}, ${v.nodes.map((n) => n.target.join(" ")).join("; ")}`);
      expect.soft(told).toEqual([]);
    };
    await check("jobs");
    await page.getByRole("link", { name: "Gorsefold Quarry" }).click();
    await settled(page);
    const job = /jobs\/(\d+)/.exec(page.url())![1];
    for (const place of PLACES) {
      await page.goto(`/jobs/${job}/${place}`);
      await settled(page);
      await check(place);
    }
    await page.goto(`/jobs/${job}/points`);
    await settled(page);
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
    await page.goto(`/jobs/${job}/volumes`);
    await settled(page);
    for (const tab of ["As built", "Report"]) {
      await page.getByRole("tab", { name: tab }).click();
      await check(tab);
    }
    await page.goto(`/jobs/${job}/settings`);
    await settled(page);
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
}

for (const [width, height] of SIZES) {
  test(`nothing is cut or overlaps at ${width} by ${height}`, async ({ page }) => {
    test.setTimeout(120_000);
    await page.setViewportSize({ width, height });
    await openAs(page, "Petra", "/");
    await page.getByRole("link", { name: "Gorsefold Quarry" }).click();
    await settled(page);
    const job = /jobs\/(\d+)/.exec(page.url())![1];
    for (const place of PLACES) {
      await page.goto(`/jobs/${job}/${place}`);
      await settled(page);
      expect.soft(await beyondTheWindow(page), `${place}: beyond the window`).toEqual([]);
      expect.soft(await overlapping(page), `${place}: over one another`).toEqual([]);
    }
  });
}

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
