import { expect, test } from "./jigfit";

test("a piece is added by what it is for, chosen, changed, taken away and brought back", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  const pieces = page.locator(".pieces .piece");
  await expect(pieces).toHaveCount(3);
  // By the drawing: a click on the deck picks it, the list shows it.
  await page.getByRole("button", { name: /^chart drawer/ }).click();
  await expect(page.getByLabel("Called")).toHaveValue("chart drawer");
  const width = page.getByLabel("Width", { exact: true });
  await expect(width).toHaveValue("420");
  await width.fill("15 3/4 in");
  await width.press("Enter");
  await expect(width).toHaveValue("400.05");
  // Another one, from what it is for.
  await page.getByRole("button", { name: "Something …" }).click();
  await page
    .getByRole("button", { name: "For what you want to pull out" })
    .click();
  await expect(pieces).toHaveCount(4);
  await expect(page.getByLabel("Called")).toHaveValue("drawer");
  await page.getByRole("button", { name: "Remove drawer" }).click();
  await expect(pieces).toHaveCount(3);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(pieces).toHaveCount(4);
});

test("what a lid meets is told, and an offer changes it", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  const lid = page.locator(".finding", {
    hasText: "rug box, lid opens to",
  });
  await expect(lid).toContainText("meets the deck");
  await lid.getByRole("button", { name: "Show me" }).click();
  await expect(page.getByLabel("Called")).toHaveValue("rug box");
  await lid.getByRole("button", { name: "Fix …" }).click();
  await lid.getByRole("button", { name: /Make it 150 mm high/ }).click();
  await expect(page.getByLabel("Height", { exact: true })).toHaveValue("150");
});

test("the evening is walked, changed and undone", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  await page.getByRole("button", { name: /^chart drawer/ }).click();
  const line = page.getByRole("slider", { name: "Where the evening is" });
  await expect(line).toHaveAttribute("aria-valuemax", "5");
  // All its way, when it is asked for; of a piece that does not move there is none to ask for.
  const ways = page.getByText("All the way of the chart drawer");
  await expect(page.locator(".swept")).toHaveCount(0);
  await ways.click();
  await expect(page.locator(".swept").first()).toBeAttached();
  await ways.click();
  await expect(page.locator(".swept")).toHaveCount(0);
  await line.focus();
  await page.keyboard.press("ArrowRight");
  await expect(line).toHaveAttribute(
    "aria-valuetext",
    /chart drawer: out 520 mm/,
  );
  // By day the drawer is out: shut, its two steps are gone; the lid's red one stays.
  const day = page.getByLabel("chart drawer, day");
  await day.selectOption("shut");
  await expect(line).toHaveAttribute("aria-valuemax", "3");
  await expect(page.locator(".bead.red")).toHaveCount(1);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(line).toHaveAttribute("aria-valuemax", "5");
  await expect(day).toHaveValue("open");
});

test("the first tick accepts the sheets; they stay when the plan changes", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/kingfisher/cut`);
  const bar = page.getByRole("group", { name: "The layout of the sheets" });
  await expect(bar).toContainText("move with every change");
  const cuts = page.locator(".cuts input");
  await page.locator(".cuts .el-checkbox").first().click();
  await expect(bar).toContainText("these sheets stay as they are");
  await expect(cuts.first()).toBeChecked();
  const before = await page.locator(".sheet h3").allTextContents();
  // The box becomes shorter: its parts on the accepted sheets are told, nothing moves.
  await page.goto(`${demo.address}/p/kingfisher/layout`);
  await page.getByRole("button", { name: /^box under the berth/ }).click();
  const length = page.getByLabel("Length", { exact: true });
  // Loading another page would break an edit off that is still on its way.
  const stored = page.waitForResponse(
    (r) => r.request().method() === "PATCH" && r.ok(),
  );
  await length.fill("650");
  await length.press("Enter");
  await stored;
  await page.goto(`${demo.address}/p/kingfisher/cut`);
  await expect(bar).toContainText("the plan has changed since");
  await expect(
    page.locator(".finding", { hasText: "Changed since" }),
  ).toBeVisible();
  expect(await page.locator(".sheet h3").allTextContents()).toEqual(before);
  // Laid out again the begun sheet stays, its tick with it.
  await bar.getByRole("button", { name: "Lay out again" }).click();
  await expect(bar).toContainText("these sheets stay as they are");
  await expect(cuts.first()).toBeChecked();
});

test("a piece comes after another one, and a circle is told", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  await page.getByRole("button", { name: /^rug box/ }).click();
  const begins = page.getByRole("combobox", { name: "Begins" });
  await expect(page.locator(".field", { has: begins })).toContainText(
    "at the threshold",
  );
  await page.locator(".field", { has: begins }).locator(".el-select").click();
  await page.getByRole("option", { name: "after the chart drawer" }).click();
  await expect(page.getByLabel("Off that piece")).toHaveValue("100");
  await page.getByRole("button", { name: /^chart drawer/ }).click();
  await page.locator(".field", { has: begins }).locator(".el-select").click();
  await page.getByRole("option", { name: "after the rug box" }).click();
  await expect(page.getByText("wait for each other")).toBeVisible();
});

test("what holds a piece is worked out, asked for, and handed to another piece", async ({
  page,
  demo,
}) => {
  // The shelves stand under the rear board: to a board that lifts nothing is screwed.
  const fixed = {
    op: "replace",
    path: "/modules/deck/choices/change",
    value: "fixed",
  };
  const answer = await page.request.patch(
    `${demo.address}/api/projects/moth-whole`,
    {
      headers: {
        "if-match": "1",
        "content-type": "application/json-patch+json",
      },
      data: [fixed],
    },
  );
  expect(answer.ok()).toBe(true);
  await page.goto(`${demo.address}/p/moth-whole/layout`);
  await page.getByRole("button", { name: /^deck/ }).click();
  const held = page.getByRole("region", { name: "Held to the vehicle" });
  await expect(held).toContainText("Held at 4 places");
  await expect(held.getByRole("row")).toHaveCount(5);
  await expect(held).toContainText("turnbuckle to an eye bolt");
  // What nothing holds is offered another piece that would hold both.
  const loose = page.locator(".finding", { hasText: "Note in the survey" });
  await loose.getByRole("button", { name: "Fix …" }).click();
  await loose
    .getByRole("button", { name: /Screw the shelves to the deck/ })
    .click();
  await page.getByRole("button", { name: /^shelves/ }).click();
  await expect(held).toContainText("into the deck, which holds both");
  // Into the floor: its thickness is asked for, and half a number stores nothing.
  await held.locator(".el-select").first().click();
  await page.getByRole("option", { name: "screws into the floor" }).click();
  await expect(held).toContainText("How thick is the floor");
  const floor = held.getByLabel("Floor is thick");
  await floor.fill("1/");
  await floor.press("Enter");
  await expect(held.getByRole("alert")).toBeVisible();
  await floor.fill("12");
  await floor.press("Enter");
  await expect(held).toContainText("5 x 12 mm into the floor");
  await held.locator("summary").click();
  await expect(held.getByRole("listitem")).toHaveCount(4);
});

test("a piece is pulled at in the drawing, by pointer and by keys", async ({
  page,
  demo,
}) => {
  const stored = async () =>
    (await page.request.get(`${demo.address}/api/projects/moth`)).json();
  await page.goto(`${demo.address}/p/moth/layout`);
  await page.getByRole("button", { name: /^rug box/ }).click();
  const handle = page.getByRole("slider", { name: "Length, in the drawing" });
  await expect(handle).toHaveAttribute("aria-valuetext", "500 mm");
  const box = (await handle.locator(".reach").boundingBox())!;
  const from = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 12, from.y, { steps: 4 });
  await expect(page.locator(".handle.mine text")).toContainText("mm");
  // The plan answers before anything is stored.
  await expect(handle).not.toHaveAttribute("aria-valuetext", "500 mm");
  expect((await stored()).revision).toBe(1);
  await page.mouse.up();
  await expect.poll(async () => (await stored()).revision).toBe(2);
  const length = (await stored()).project.modules.box_seat.choices.length;
  expect(length).toBeGreaterThan(520);
  const now = (mm: number) => String(Math.round(mm));
  await expect(handle).toHaveAttribute("aria-valuenow", now(length));
  await handle.focus();
  await page.keyboard.press("ArrowRight");
  await expect(handle).toHaveAttribute("aria-valuenow", now(length + 1));
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(handle).toHaveAttribute("aria-valuenow", now(length));
  // Picked up and laid down again where it was, nothing is stored.
  const again = (await handle.locator(".reach").boundingBox())!;
  await page.mouse.move(again.x + 14, again.y + 14);
  await page.mouse.down();
  await page.mouse.up();
  expect((await stored()).revision).toBe(4);
});

test("a piece that is pulled catches at what holds", async ({ page, demo }) => {
  const api = `${demo.address}/api/projects/moth`;
  await page.goto(`${demo.address}/p/moth/layout`);
  await page.getByRole("button", { name: /^rug box/ }).click();
  const handle = page.getByRole("slider", { name: "Length, in the drawing" });
  await expect(handle).toHaveAttribute("aria-valuetext", "500 mm");
  const handles = await (
    await page.request.get(`${api}/handles?piece=box_seat`)
  ).json();
  const own = handles.find((h: { pointer: string }) =>
    h.pointer.endsWith("/length"),
  );
  const more = own.catches.filter(
    (c: { value: number }) => c.value > own.value,
  );
  const next = more.sort(
    (a: { value: number }, b: { value: number }) => a.value - b.value,
  )[0];
  await handle.focus();
  await page.keyboard.press("PageUp");
  await expect(handle).toHaveAttribute(
    "aria-valuenow",
    String(Math.round(next.value)),
  );
  const stored = await (await page.request.get(api)).json();
  expect(stored.project.modules.box_seat.choices.length).toBe(next.value);
});

test("what would help against a stop is tried when asked, and done", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth-whole/layout`);
  const stop = page.locator(".finding.stop", {
    hasText: "The rear board of the deck opens to",
  });
  await stop.getByRole("button", { name: "What would help?" }).click();
  // Many whole plans are worked out for it.
  await expect(stop.locator(".offer").first()).toBeVisible({ timeout: 60_000 });
  await stop
    .getByRole("button", { name: /^Do it: The deck, what moves: nothing/ })
    .click();
  await expect(stop).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(stop).toHaveCount(1);
});
