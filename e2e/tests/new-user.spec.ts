import { readFile } from "node:fs/promises";
import { expect, field, tape, test } from "./jigfit";

/** What the tape says, by what is asked. */
function answer(asked: string): string {
  const prompt = asked.replace(/^Again: /, "");
  if (/^Length/.test(prompt)) return "200 cm";
  if (/opening, width/.test(prompt)) return "1150";
  if (/opening, height/.test(prompt)) return "1100";
  if (/^Left wall/.test(prompt)) return "27 9/16 in";
  if (/^Right wall/.test(prompt)) return "698";
  if (/^Floor to roof/.test(prompt)) return "4' 1\"";
  if (/^Wall to wall/.test(prompt)) return "1398";
  if (/to rear face/.test(prompt)) return "600";
  if (/to front face/.test(prompt)) return "1300";
  if (/, length/.test(prompt)) return "70 cm";
  if (/inner face/.test(prompt)) return "495";
  if (/, height/.test(prompt)) return "300";
  throw new Error(`no answer for ${prompt}`);
}

test("from an empty program to a cut sheet", async ({ page, empty }) => {
  test.slow();
  await page.goto(empty.address);
  await expect(page.getByText("None yet.")).toBeVisible();
  await page.getByLabel("What do you call it?").fill("Night bus");
  await page.getByRole("button", { name: "Start measuring" }).click();

  // The first number is asked for, and some fifty follow: each is checked by another.
  const prompt = page.locator(".tape .what b");
  await expect(prompt).toHaveText("Length of the bay, at the floor");
  let readings = 0;
  const survey = page.getByRole("link", { name: /^Survey/ });
  while (await survey.getByText(/needs \d+ number/).isVisible()) {
    await tape(page, answer((await prompt.textContent()) ?? ""));
    readings += 1;
    expect(readings).toBeLessThan(75);
  }
  expect(readings).toBeGreaterThan(25);
  await page.getByRole("link", { name: /^Survey/ }).click();
  await expect(page.getByText("More measuring is not worth it")).toBeVisible();

  // Two bins, two people, a mattress.
  await page.getByRole("link", { name: /^Stow/ }).click();
  for (const [name, w, d, h] of [
    ["Low bin", "400", "300", "16 cm"],
    ["Tall bin", "380", "300", "10 in"],
  ] as const) {
    await page.getByLabel("New thing to stow").fill(name);
    await page.getByRole("button", { name: "Add a thing" }).click();
    for (const [what, text] of [
      ["height", h],
      ["width", w],
      ["depth", d],
    ]) {
      await expect(prompt).toHaveText(`${name}, ${what}`);
      await tape(page, text!);
    }
  }
  for (const [name, stature] of [
    ["Ada", "162 cm"],
    ["Bo", "1840"],
  ] as const) {
    await page.getByLabel("New sleeper").fill(name);
    await page.getByRole("button", { name: "Add a sleeper" }).click();
    await expect(prompt).toHaveText(`${name}, stature`);
    await tape(page, stature);
  }
  await expect(prompt).toHaveText("Mattress, thickness");
  await tape(page, "80");
  await tape(page, "25");

  // A rung of the ladder.
  await page.getByRole("link", { name: /^Heights/ }).click();
  await page.getByRole("button", { name: /Tall bin fits/ }).click();
  await expect(page.getByRole("slider")).toHaveAttribute(
    "aria-valuenow",
    "264",
  );

  // The panel clears the wells: no part of it is drawn over them.
  await page.getByRole("link", { name: /^Layout/ }).click();
  await expect(page.locator("svg .panel").first()).toBeVisible();
  await expect(page.locator("svg .thing")).not.toHaveCount(0);
  const plan = await (
    await page.request.get(`${empty.address}/api/projects/night-bus`)
  ).json();
  const deck = plan.plan.decks[0];
  expect(deck.obstacles).toHaveLength(2);
  for (const [x, y] of deck.panels.flatMap(
    (p: { outer: number[][] }) => p.outer,
  ))
    if (x! > 600 && x! < 1300) expect(Math.abs(y!)).toBeLessThan(495);

  // Parts, the cut sheet, and what is taken to the saw.
  await page.getByRole("link", { name: /^Parts/ }).click();
  await expect(page.getByRole("heading", { name: /^F1 ·/ })).toBeVisible();
  await page.getByRole("link", { name: /^Cut day/ }).click();
  await expect(page.getByRole("heading", { name: /^S1/ })).toBeVisible();
  const pdf = page.waitForEvent("download");
  await page.getByRole("link", { name: "Sheets as PDF" }).click();
  const file = await readFile(await (await pdf).path());
  expect(file.subarray(0, 5).toString()).toBe("%PDF-");
  const csv = page.waitForEvent("download");
  await page.getByRole("link", { name: "Cut list as CSV" }).click();
  expect((await readFile(await (await csv).path())).toString()).toContain(
    "S1,1,",
  );

  // A cut is ticked off and stays so.
  const stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await page.locator(".cuts .el-checkbox").first().click();
  await stored;
  await page.reload();
  await expect(page.locator(".cuts li").first()).toHaveClass(/done/);
});

test("a project file goes out and comes in again", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/kingfisher/survey`);
  await page.getByRole("button", { name: "Menu" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^Project \(JSON/ }).click();
  const path = await (await download).path();
  await page.getByRole("button", { name: "All projects" }).click();
  await page.getByLabel("Project file").setInputFiles({
    name: "kingfisher.json",
    mimeType: "application/json",
    buffer: await readFile(path),
  });
  await expect(page).toHaveURL(/kingfisher-2/);
  await page.goto(demo.address);
  await page.getByLabel("Project file").setInputFiles({
    name: "bad.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"format": "jigfit-project", "version": 99}'),
  });
  await expect(page.getByRole("alert")).toContainText("version 99");
});

test("a wrong entry is told at the field and nothing is stored", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/stow`);
  const height = page
    .getByRole("region", { name: "Water can" })
    .getByLabel("Height");
  await height.fill("33 furlongs");
  await expect(
    page.getByRole("region", { name: "Water can" }).getByRole("alert"),
  ).toHaveCount(0);
  await height.press("Enter");
  await expect(
    page.getByRole("region", { name: "Water can" }).getByRole("alert"),
  ).toContainText("no unit");
  await height.fill("90 m");
  await height.press("Enter");
  await expect(
    page.getByRole("region", { name: "Water can" }).getByRole("alert"),
  ).toContainText("not possible");
  await page.reload();
  await expect(height).toHaveValue("338");
});

test("inches everywhere with one switch", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/heights`);
  await page.getByRole("button", { name: "in ¹⁄₁₆" }).click();
  await expect(
    page.getByRole("button", { name: /^13 11\/16 in: Water can fits/ }),
  ).toBeVisible();
  await expect(page.locator(".finding").first()).toContainText(" in");
  await page.goto(`${demo.address}/p/moth/stow`);
  await expect(
    page.getByRole("region", { name: "Water can" }).getByLabel("Height"),
  ).toHaveValue('13 5/16"');
  await field(page, "Thickness", "3");
  const moth = await (
    await page.request.get(`${demo.address}/api/projects/moth`)
  ).json();
  expect(moth.project.mattress.thickness).toBeCloseTo(76.2, 6);
});
