import { expect, test } from "./jigfit";

test("a curve is captured, its wrong reading named, and taken away at full size", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/templates`);
  const drawing = page.getByRole("img", {
    name: /left wall, probed: 13 readings/,
  });
  await expect(drawing).toBeVisible();
  // The slip that the demo has is named, and gone once the reading is put right.
  const slip = page.getByText(
    /Reading 8 lies 9\.\d mm off what the others say/,
  );
  await expect(slip).toBeVisible();
  // By one press the curve goes without it; taken back, it is named again.
  const finding = page.getByRole("article").filter({ has: slip });
  await finding.getByRole("button", { name: "Fix …" }).click();
  await finding
    .getByRole("button", { name: "Do it: Leave that reading out" })
    .click();
  await expect(slip).toHaveCount(0);
  await expect(
    page.getByRole("img", { name: /left wall, probed: 12 readings/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(slip).toBeVisible();
  const depth = page.getByRole("textbox", { name: "8, depth" });
  await depth.fill("66.5");
  await depth.press("Enter");
  await expect(slip).toHaveCount(0);
  // Files: pages for paper, a cutter's file, a table.
  for (const [link, begins] of [
    ["PDF", "%PDF-"],
    ["SVG", "<?xml"],
    ["DXF", "999"],
    ["DXF 2000", "SECTION"],
    ["Ordinates (CSV)", "curve,along_mm"],
  ]) {
    const href = await page
      .getByRole("link", { name: link, exact: true })
      .getAttribute("href");
    const file = await page.request.get(`${demo.address}${href}`);
    expect((await file.body()).toString("utf8", 0, 40)).toContain(begins);
  }
});

test("a new curve from pasted readings, in inches, and away again", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/wren/templates`);
  await expect(page.getByText("None yet.")).toBeVisible();
  await page.getByRole("textbox", { name: "New curve" }).fill("Seat back");
  await page.getByRole("button", { name: "Add a curve" }).click();
  await page.getByText("Paste many").click();
  const pasted = page.getByRole("textbox", {
    name: "Readings, two lengths a line",
  });
  await pasted.fill('0; 2 1/2"\n4"; 2 5/8"\n8"; twelve');
  await page.getByRole("button", { name: "Take these" }).click();
  await expect(page.getByText('Line 3: "twelve" is no length.')).toBeVisible();
  await pasted.fill('0; 2 1/2"\n4"; 2 5/8"\n8"; 2 3/4"');
  await page.getByRole("button", { name: "Take these" }).click();
  await expect(
    page.getByRole("img", { name: /Seat back: 3 readings/ }),
  ).toBeVisible();
  await expect(
    page.getByRole("textbox", { name: "2, along the straight edge" }),
  ).toHaveValue("101.6");
  await page.getByRole("button", { name: "Remove this curve" }).click();
  await expect(page.getByText("None yet.")).toBeVisible();
});

test("the bed of two boards gives the seats back, step by step", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/wren/layout`);
  await page.getByRole("button", { name: "deck", exact: true }).click();
  const road = page.getByRole("combobox", {
    name: "front board of the deck, drive",
  });
  await expect(road).toHaveValue("open");
  // Left in its place it is told, and the offer moves it back.
  await road.selectOption("shut");
  const told = page.getByText(
    "On the road the front board of the deck still lies in its place.",
  );
  await expect(told).toBeVisible();
  await page.goto(`${demo.address}/p/wren/parts`);
  await page.getByRole("button", { name: "D1", exact: true }).click();
  await expect(
    page.getByRole("heading", { name: "Put together: deck" }),
  ).toBeVisible();
  await page.getByRole("option", { name: /Set up 10 x L1/ }).click();
  await expect(page.getByRole("img", { name: /Step 1 of/ })).toBeVisible();
});

test("a curve comes out of a drawing, its unit said, and is taken", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/wren/templates`);
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="100">
    <path id="flap" d="M0 50 C 100 0 300 0 400 50" fill="none" stroke="black"/><text>seat</text></svg>`;
  await page
    .getByLabel("A curve from a file (SVG, DXF, table)")
    .setInputFiles({
      name: "flap.svg",
      mimeType: "image/svg+xml",
      buffer: Buffer.from(drawing),
    });
  const table = page.getByRole("group", { name: "Curves that were found" });
  // 400 dots at 96 to the inch.
  await expect(table.getByText(/^105\.8 × /)).toBeVisible();
  await expect(page.getByText("Are the sizes below right?")).toBeVisible();
  await expect(page.getByText("Left out: text.")).toBeVisible();
  await page
    .getByRole("combobox", { name: "Unit of the file" })
    .selectOption("mm");
  await expect(table.getByText(/^400 × /)).toBeVisible();
  await page.getByRole("button", { name: "Take flap" }).click();
  await expect(
    page.getByRole("img", { name: /^flap: \d+ readings/ }),
  ).toBeVisible();
  await expect(table).toHaveCount(0);
});

test("in the vehicle a reading is added where it tells most, and typed where the tape bar asks for it", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${demo.address}/p/kingfisher/templates`);
  await page.getByRole("button", { name: "Add a reading" }).click();
  const bar = page.getByRole("form", { name: "Tape bar" });
  await expect(
    bar.getByText(
      "hull at the berth, probed: reading 14, along the straight edge",
    ),
  ).toBeVisible();
  await bar.getByRole("textbox").fill("700");
  await bar.getByRole("button", { name: /Next/ }).click();
  await expect(
    bar.getByText("hull at the berth, probed: depth at 700 mm along"),
  ).toBeVisible();
  await bar.getByRole("textbox").fill("145");
  await bar.getByRole("button", { name: /Next/ }).click();
  await expect(page.getByRole("img", { name: /14 readings/ })).toBeVisible();
  await expect(
    page.getByText("Every number asked for is there."),
  ).toBeVisible();
});

test("straight runs with a corner, three sides of a triangle", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/wren/templates`);
  await page
    .getByRole("textbox", { name: "New curve" })
    .fill("Behind the seat");
  await page
    .locator(".el-select", {
      has: page.getByRole("combobox", { name: "Captured by" }),
    })
    .click();
  await page.getByRole("option", { name: "straight runs and corners" }).click();
  await page.getByRole("button", { name: "Add a curve" }).click();
  // The row may be there before the answer to the press is, and before the answer to what was typed before: nothing of it is lost.
  const add = page.getByRole("button", { name: "Add a reading" });
  const type = async (name: string, value: string) => {
    const field = page.getByRole("textbox", { name, exact: true });
    await field.fill(value);
    const stored = page.waitForResponse(
      (r) => r.request().method() === "PATCH",
    );
    await field.press("Enter");
    await stored;
  };
  await add.click();
  await type("1, length of the run", "300");
  await add.click();
  await type("2, length of the run", "400");
  // With a second run the first has a corner: it is asked for.
  await type("1, across its corner", "710");
  await expect(
    page
      .getByText(
        /make no triangle: the third side lies between 100 mm and 700 mm/,
      )
      .first(),
  ).toBeVisible();
  await type("1, across its corner", "500");
  await expect(
    page.getByRole("img", { name: /Behind the seat: 2 readings/ }),
  ).toBeVisible();
  await type("1, radius", "50");
  await expect(
    page.getByRole("textbox", { name: "1, radius", exact: true }),
  ).toHaveValue("50");
});

test("two places of a drawing are measured, and the other wall laid over it", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/kingfisher/templates`);
  await page.getByRole("button", { name: "the other wall over it" }).click();
  await expect(
    page.locator(".curve").getByText(/The right wall differs by up to 9 mm/),
  ).toBeVisible();
  await page.getByRole("button", { name: "measure", exact: true }).click();
  // From the first to the last reading, as they were typed: 1124.5 along.
  const marks = page.locator(".curve svg g circle");
  for (const i of [0, 12]) {
    const box = (await marks.nth(i).boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  }
  await expect(page.getByText(/112\d(\.\d)? mm to the right/)).toBeVisible();
});

test("a reading is marked as a corner, and unmarked", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/kingfisher/templates`);
  const corner = page.getByRole("button", { name: "Reading 5 is a corner" });
  await expect(page.locator(".curve rect.corner")).toHaveCount(0);
  await corner.click();
  await expect(corner).toHaveAttribute("aria-pressed", "true");
  await expect(page.locator(".curve rect.corner")).toHaveCount(1);
  // The band has two parts now, one to either side of it.
  await expect(page.locator(".curve path.band")).toHaveCount(2);
  await corner.click();
  await expect(page.locator(".curve rect.corner")).toHaveCount(0);
  await expect(page.locator(".curve path.band")).toHaveCount(1);
});

test.describe("on glass", () => {
  test.use({ hasTouch: true });
  test("two fingers zoom the drawing about the place between them, and how it bends is shown", async ({
    page,
    demo,
  }) => {
    await page.goto(`${demo.address}/p/kingfisher/templates`);
    const svg = page.locator(".curve svg[tabindex]");
    const mark = async (i: number) => {
      const b = (await page
        .locator(".curve svg g circle")
        .nth(i)
        .boundingBox())!;
      return [b.x + b.width / 2, b.y + b.height / 2] as const;
    };
    await expect(svg).toBeVisible();
    await svg.scrollIntoViewIfNeeded();
    const [seventh, eighth] = [await mark(6), await mark(7)];
    const box = (await svg.boundingBox())!;
    const fingers = await page.context().newCDPSession(page);
    const at = (apart: number, dx = 0) =>
      [-1, 1].map((side, id) => ({
        x: seventh[0] + dx + (side * apart) / 2,
        y: seventh[1],
        id,
      }));
    const send = (
      type: string,
      touchPoints: { x: number; y: number; id: number }[],
    ) =>
      fingers.send("Input.dispatchTouchEvent", {
        type: type as "touchStart",
        touchPoints,
      });
    await send("touchStart", at(60));
    await send("touchMove", at(90));
    await send("touchMove", at(120));
    await send("touchEnd", []);
    // Twice as far apart; what lay between the fingers stays there.
    await expect
      .poll(async () => (await mark(7))[0] - (await mark(6))[0])
      .toBeCloseTo(2 * (eighth[0] - seventh[0]), 0);
    expect((await mark(6))[0]).toBeCloseTo(seventh[0], 0);
    // Once zoomed one finger moves it.
    await send("touchStart", [at(0)[0]!]);
    await send("touchMove", [at(0, 15)[0]!]);
    await send("touchMove", [at(0, 30)[0]!]);
    await send("touchEnd", []);
    await expect
      .poll(async () => (await mark(6))[0])
      .toBeCloseTo(seventh[0] + 30, 0);
    await page.getByRole("button", { name: "all of it" }).click();
    await expect
      .poll(async () => (await mark(6))[0])
      .toBeCloseTo(seventh[0], 0);
    // The wheel zooms about the pointer.
    await page.mouse.move(...seventh);
    await page.mouse.wheel(0, -200);
    await expect(page.getByRole("button", { name: "all of it" })).toBeVisible();
    expect((await mark(6))[0]).toBeCloseTo(seventh[0], 0);
    expect((await svg.boundingBox())!.y).toBeCloseTo(box.y, 0);
    await page.getByRole("button", { name: "all of it" }).click();
    await page.getByRole("button", { name: "how it bends" }).click();
    await expect(
      page.getByText(
        /^Hollow, to a radius of \d+ mm at the tightest, by reading \d+\./,
      ),
    ).toBeVisible();
  });
});

test("a mark rubbed off a bolt becomes a hole that works", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/parts`);
  await page.getByRole("button", { name: "D1", exact: true }).click();
  await page.getByRole("button", { name: "A mark", exact: true }).click();
  const own = page.getByRole("group", { name: "Mark 1" });
  await expect(
    own.getByText(
      "The mark of the bolt is measured from two edges: one is missing.",
    ),
  ).toBeVisible();
  const type = async (name: string, value: string) => {
    const field = own.getByRole("textbox", { name, exact: true });
    await field.fill(value);
    const stored = page.waitForResponse(
      (r) => r.request().method() === "PATCH",
    );
    await field.press("Enter");
    await stored;
  };
  await type("From the left edge", "120");
  await type("Up from the lower edge", '5 1/2"');
  await expect(
    own.getByText("Drill 11.5 mm: the mark may be off by 1.7 mm."),
  ).toBeVisible();
  await expect(
    page.getByRole("row", { name: /^hole 120 .* 139\.7 .*11\.5/ }),
  ).toBeVisible();
  await own.getByRole("button", { name: "Remove mark 1" }).click();
  await expect(own).toHaveCount(0);
});

test("a photo of a template becomes a curve", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/kingfisher/templates`);
  await page.getByText("A photo of a template").click();
  await page.getByRole("button", { name: "Simulated photo" }).click();
  const photo = page.getByRole("img", {
    name: "The photo, with the outline that was found",
  });
  await expect(photo).toBeVisible({ timeout: 30_000 });
  // A tap beside the template: what lies there is floor.
  const box = (await photo.boundingBox())!;
  await photo.click({ position: { x: box.width * 0.5, y: box.height * 0.22 } });
  await expect(page.getByRole("alert")).toContainText("look alike", {
    timeout: 30_000,
  });
  // A distance that is far off is told, one that is none is refused at its field.
  await page.getByLabel("sheet 1 to 3").fill("three");
  await page.getByLabel("sheet 1 to 3").blur();
  await expect(page.getByRole("alert").first()).toBeVisible();
  await page.getByLabel("sheet 1 to 3").fill("85 in");
  await page.getByLabel("sheet 2 to 4").fill("2043");
  await page.getByLabel("sheet 2 to 4").blur();
  await expect(
    page.getByText("From sheet 1 to sheet 3 you taped 2159 mm"),
  ).toBeVisible({ timeout: 30_000 });
  await page.getByRole("button", { name: "Take Side 1 of the photo" }).click();
  await expect(
    page.getByRole("button", { name: "Side 1 of the photo" }),
  ).toHaveAttribute("aria-pressed", "true");
  await expect(
    page.getByText(/\d+ points, of a file or a photo/),
  ).toBeVisible();
  const kept = await page
    .getByRole("link", { name: "The photo they were read from" })
    .getAttribute("href");
  const answer = await page.request.get(`${demo.address}${kept}`);
  expect(answer.headers()["content-type"]).toBe("image/png");
});
