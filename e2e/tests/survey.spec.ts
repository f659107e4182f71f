import { expect, test } from "./jigfit";

test("the laser's reading lands in the tape bar", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/kingfisher/survey`);
  const entry = page.locator("#tape-entry");
  await expect(entry).toBeVisible();
  await page.locator(".next .link").last().click();
  // Its radio loses a message now and then; then one presses again.
  await expect(async () => {
    await page.getByRole("button", { name: "Simulated laser" }).click();
    await expect(entry).toHaveValue(/^\d+ mm$/, { timeout: 1000 });
  }).toPass();
  const stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await entry.press("Enter");
  // A meter, too, is asked back once where it says what nobody expects.
  if ((await page.locator("#tape-says .error").count()) > 0)
    await entry.press("Enter");
  const opened = await (await stored).json();
  const readings = Object.values(opened.project.survey.readings) as {
    instrument: string;
  }[];
  expect(readings.filter((r) => r.instrument === "simulated")).toHaveLength(1);
  await expect(entry).toHaveValue("");
});

test("a scan is cut at heights and its readings are added", async ({
  page,
  demo,
}) => {
  const points: string[] = [];
  for (let i = 0; i < 500; i++) {
    const x = i * 3;
    for (const [y, z] of [
      [650, 250],
      [-640, 250],
      [690, 450],
      [-684, 450],
    ])
      points.push(`${x} ${y! - x * 0.15 * Math.sign(y!)} ${z}`);
  }
  const head = ["ply", "format ascii 1.0", `element vertex ${points.length}`];
  const properties = ["x", "y", "z"].map((a) => `property float ${a}`);
  const text = [...head, ...properties, "end_header", ...points, ""].join("\n");
  await page.goto(`${demo.address}/p/kingfisher/survey`);
  await page.getByRole("button", { name: "Scan or table" }).click();
  await page
    .locator("input[type=file]")
    .last()
    .setInputFiles({
      name: "cuddy.ply",
      mimeType: "application/octet-stream",
      buffer: Buffer.from(text),
    });
  await expect(page.getByText("2,000 points, seen from above.")).toBeVisible();
  await expect(
    page.getByText(/\d+ places of wall and front found/),
  ).toBeVisible();
  const stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await page.getByRole("button", { name: /^Add \d+ readings/ }).click();
  expect((await stored).status()).toBe(200);
  const doc = await (
    await page.request.get(`${demo.address}/api/projects/kingfisher`)
  ).json();
  const readings = Object.values(doc.project.survey.readings) as {
    instrument: string;
  }[];
  expect(
    readings.filter((r) => r.instrument === "scan").length,
  ).toBeGreaterThan(10);
});

test("a broken scan is told where it was chosen", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/survey`);
  await page.getByRole("button", { name: "Scan or table" }).click();
  await page
    .locator("input[type=file]")
    .last()
    .setInputFiles({
      name: "bad.ply",
      mimeType: "application/octet-stream",
      buffer: Buffer.from("ply\nformat ascii 1.0\nelement vertex 9\n"),
    });
  await expect(page.getByRole("alert")).toContainText("header does not end");
});

test("left and right are compared, and the table follows the height", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/survey`);
  await page.getByRole("button", { name: "right laid over left" }).click();
  await expect(
    page.getByText(/left and right differ by up to \d+\.?\d* mm/),
  ).toBeVisible();
  await page.getByRole("button", { name: "350 up" }).click();
  await page.getByRole("button", { name: "this height" }).click();
  const rows = page.locator(".paper-table tbody tr");
  await expect(rows).toHaveCount(6);
  for (const row of await rows.all())
    await expect(row).toContainText("350 mm over the floor");
});

test("a ridge and a thing are added where they are", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/survey`);
  await page.getByRole("button", { name: "Places and things" }).click();
  await page.getByLabel("New place").fill("95 cm");
  await page.getByText("a ridge: the wall bends sharply").click();
  let stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await page.getByRole("button", { name: "Add a place" }).click();
  const opened = await (await stored).json();
  expect(Object.values(opened.project.survey.stations)).toEqual([
    { x: 950, ridge: true, side: null },
  ]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Fixings, doors, datums" }).click();
  stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await page.getByRole("button", { name: "Add a fixing" }).click();
  expect((await stored).status()).toBe(200);
  await expect(page.getByLabel("Thread")).toBeVisible();
});

test("quick is content with less than full", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/kingfisher/survey`);
  const goal = async () => {
    const doc = await (
      await page.request.get(`${demo.address}/api/projects/kingfisher`)
    ).json();
    return doc.plan.progress.goal.value as number;
  };
  const full = await goal();
  const stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await page.getByRole("button", { name: "quick", exact: true }).click();
  await stored;
  await expect(page.getByText(/edges to about 6/)).toBeVisible();
  expect(await goal()).toBeGreaterThan(full);
});
