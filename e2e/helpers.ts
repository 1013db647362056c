/** What a person does, in short words, for the browser tests. */
import { seenAt, type Orbit } from "../web/sheet/relief/orbit";
import { expect, type APIRequestContext, type Locator, type Page } from "./test";
import { PNG } from "pngjs";

const names = new WeakMap<Page, string>();

/** A person at the page, who has given their name. */
export async function as(page: Page, name: string): Promise<void> {
  names.set(page, name);
  await page.addInitScript((n) => localStorage.setItem("author", n), name);
}

/** Opens a page as a person who has given their name. */
export async function openAs(page: Page, name: string, url: string): Promise<void> {
  await as(page, name);
  await page.goto(url);
}

/** All that was changed is stored, and what follows from it is on the screen. */
export async function settled(page: Page): Promise<void> {
  await expect(page.getByTestId("saved")).toHaveText("Saved");
}

/** A new job with the general book, opened where its first delivery comes in; how one is made by hand has its own tests. */
export async function newJob(
  page: Page,
  name: string,
  { unit = "m", order = "NE", template }: { unit?: string; order?: string; template?: string } = {},
): Promise<void> {
  const made = await page.request.post("/api/jobs", {
    data: { name, unit, order, ...(template ? { template } : { book: "general" }) },
    headers: { "x-author": names.get(page) ?? "Petra" },
  });
  expect(made.ok()).toBe(true);
  await page.goto(`/jobs/${((await made.json()) as { id: number }).id}/intake`);
  await expect(page.getByRole("heading", { name: "Intake", exact: true })).toBeVisible();
}

/** The same by hand, on the page of jobs. */
export async function makeJob(
  page: Page,
  name: string,
  more: { unit?: string; order?: string; template?: string } = {},
): Promise<void> {
  await page.getByLabel("Name", { exact: true }).fill(name);
  if (more.template) await page.getByLabel("Template").selectOption(more.template);
  if (more.unit) await page.getByLabel("Length unit").selectOption(more.unit);
  if (more.order) await page.getByLabel("Coordinate order").selectOption(more.order);
  await page.getByRole("button", { name: "Make the job" }).click();
  await expect(page.getByRole("heading", { name: "Intake", exact: true })).toBeVisible();
}

export async function choose(page: Page, name: string, content: string | Buffer): Promise<void> {
  await page
    .getByLabel("File to take in")
    .setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(content) });
}

export async function takeIn(page: Page, name: string, content: string, points: number): Promise<void> {
  await choose(page, name, content);
  await page.getByRole("button", { name: `Take in ${points} points` }).click();
  await expect(page.getByRole("status")).toContainText(`${points} points taken in`);
  await settled(page);
}

export async function goTo(page: Page, place: string): Promise<void> {
  await page
    .getByRole("navigation", { name: "Places" })
    .getByRole("link", { name: new RegExp(`^${place}`) })
    .click();
  await expect(page.getByRole("heading", { level: 1, name: place })).toBeVisible();
}

/** The cell of a point's row in the points table, by the title of its column. */
export async function cell(page: Page, point: string, column: string): Promise<Locator> {
  const heads = page.getByRole("grid", { name: "Points" }).getByRole("columnheader");
  // Listed at once, whether the table is there yet or not.
  await heads.filter({ hasText: column }).first().waitFor();
  const titles = await heads.allTextContents();
  const k = titles.findIndex((t) => t.startsWith(column));
  const row = page
    .getByRole("row")
    .filter({ has: page.getByRole("gridcell", { name: point, exact: true }).first() })
    .first();
  return row.getByRole("gridcell").nth(k);
}

export async function editCell(page: Page, point: string, column: string, text: string): Promise<void> {
  const c = await cell(page, point, column);
  await c.click();
  await page.keyboard.press("F2");
  await c.getByRole("textbox").fill(text);
  await page.keyboard.press("Enter");
  await settled(page);
}

/** What a window onto the job says of itself, once it says the size that it has on the page: a notice that came or went moves it. */
async function windowOf(page: Page, id: string): Promise<{ said: number[]; x: number; y: number }> {
  const frame = page.getByTestId(id);
  let found: { said: number[]; x: number; y: number } | undefined;
  await expect(async () => {
    const said = ((await frame.getAttribute("data-view")) ?? "").split(" ").map(Number),
      box = (await frame.boundingBox())!,
      [width, height] = said.slice(-2);
    expect([Math.abs(width! - box.width) < 1.5, Math.abs(height! - box.height) < 1.5]).toEqual([true, true]);
    found = { said, x: box.x, y: box.y };
  }).toPass({ timeout: 10_000 });
  return found!;
}

/** Where a position of the job stands on the page, by what the sheet says of its view. */
export async function pixelOnSheet(page: Page, e: number, n: number): Promise<[number, number]> {
  const { said, x, y } = await windowOf(page, "sheet"),
    [ve, vn, scale, width, height] = said as [number, number, number, number, number];
  return [x + width / 2 + (e - ve) * scale, y + height / 2 - (n - vn) * scale];
}

/** Where a position at a level stands on the page in 3D, by what the relief says of its window. */
export async function pixelInRelief(page: Page, e: number, n: number, z: number): Promise<[number, number]> {
  const { said, x, y } = await windowOf(page, "relief"),
    names = ["e", "n", "z", "bearing", "tilt", "heights", "scale", "width", "height"] as const,
    [px, py] = seenAt(Object.fromEntries(names.map((name, k) => [name, said[k]!])) as unknown as Orbit, e, n, z);
  return [x + px, y + py];
}

/** Waits for the frame that follows what was just done, of the plan or of the relief. */
export async function nextFrame(page: Page, act: () => Promise<void>, of = "sheet"): Promise<void> {
  const sheet = page.getByTestId(of);
  const before = Number(await sheet.getAttribute("data-frame"));
  await act();
  await expect.poll(async () => Number(await sheet.getAttribute("data-frame"))).toBeGreaterThan(before);
}

export type Rgb = [number, number, number];

/** The colours of a picture of the page around a pixel. */
export function colorsAround(png: Buffer, x: number, y: number, reach: number): Rgb[] {
  const { width, height, data: pixels } = PNG.sync.read(png);
  const colors: Rgb[] = [];
  for (let j = Math.max(0, Math.round(y) - reach); j <= Math.min(height - 1, Math.round(y) + reach); j++) {
    for (let i = Math.max(0, Math.round(x) - reach); i <= Math.min(width - 1, Math.round(x) + reach); i++) {
      const k = 4 * (j * width + i);
      colors.push([pixels[k]!, pixels[k + 1]!, pixels[k + 2]!]);
    }
  }
  return colors;
}

export function isNear(a: Rgb, hex: string, by = 60): boolean {
  const v = Number.parseInt(hex.slice(1), 16);
  return (
    Math.abs(a[0] - ((v >> 16) & 255)) < by && Math.abs(a[1] - ((v >> 8) & 255)) < by && Math.abs(a[2] - (v & 255)) < by
  );
}

/** What the bench says is wrong; the framework's own announcer has the same role elsewhere. */
export function problem(page: Page): Locator {
  return page.getByRole("region", { name: "Bench" }).getByRole("alert");
}

/** What a program sends to take a file in: how to read it as JSON, then the file. */
export function intakeRequest(
  content: string | Buffer,
  options: object,
): { data: Buffer; headers: Record<string, string> } {
  const head = Buffer.from(JSON.stringify(options));
  return {
    data: Buffer.concat([head, Buffer.from(content)]),
    headers: { "x-author": "Petra", "x-head": String(head.length), "content-type": "application/octet-stream" },
  };
}

/** Rows of a lattice of 10 m, 100 m each way, at level 10. */
export const LATTICE = Array.from({ length: 121 }, (_, k) => {
  const [row, col] = [Math.floor(k / 11), k % 11];
  return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},10,SPOT`;
});

/** Puts a comparison of the ground with a level into the job; the number of its entry in the ledger. */
export async function compareWith(page: Page, level: number): Promise<number> {
  const id = page.url().split("/")[4]!,
    name = `to ${level}`,
    change = { type: "named", part: "volumes", name, old: null, new: { name, surface: "existing ground", level } };
  const made = await page.request.post(`/api/jobs/${id}/changes`, { data: change, headers: { "x-author": "Petra" } });
  expect(made.ok()).toBe(true);
  await settled(page);
  return ((await made.json()) as { seq: number }).seq;
}

/** A new job of Petra's with a surface through so many points; its number. */
export async function jobWithSurface(page: Page, name: string, rows: string[]): Promise<string> {
  await as(page, "Petra");
  await newJob(page, name);
  await takeIn(page, "day1.txt", rows.join("\n"), rows.length);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  return page.url().split("/")[4]!;
}

/** Gives a point another level, in the table of points. */
export async function raise(page: Page, point: string, level: string): Promise<void> {
  const c = await cell(page, point, "Elevation");
  await c.click();
  await page.keyboard.press("F2");
  await c.getByRole("textbox").fill(level);
  await page.keyboard.press("Enter");
}

/** Of requests by program. */
export const AUTHOR = { "x-author": "Petra" };

/** A job that a program made, with one delivery. */
export async function jobWith(request: APIRequestContext, text: string): Promise<number> {
  const { id } = await (
    await request.post("/api/jobs", { data: { name: "By program", unit: "m", order: "EN", book: "general" } })
  ).json();
  const answer = await request.post(`/api/jobs/${id}/intakes`, intakeRequest(text, { file: "day1.txt" }));
  expect(answer.status()).toBe(201);
  return id;
}

export const change = (request: APIRequestContext, id: number, data: object) =>
  request.post(`/api/jobs/${id}/changes`, { data, headers: AUTHOR });
