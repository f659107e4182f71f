import { expect, test } from "./jigfit";

test("a board is held in its place: places are tapped one after the other, the verdict follows, undo takes it back", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${demo.address}/p/moth/parts`);
  await page.getByRole("button", { name: "D1", exact: true }).click();
  // Pressed twice, it is one round.
  await page.getByRole("button", { name: "I hold it in its place" }).dblclick();
  const asked = page.getByRole("heading", {
    name: /^1 · right wall, \d+ mm forward$/,
  });
  await expect(asked).toBeVisible();
  const gap = page.getByRole("group", { name: "A gap of" });
  await gap.getByRole("button", { name: "3", exact: true }).click();
  // The next place is asked by itself.
  await expect(
    page.getByRole("heading", { name: /^2 · right wall/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: "touches" }).click();
  await expect(
    page.getByRole("heading", { name: /^3 · right wall/ }),
  ).toBeVisible();
  await page
    .getByRole("group", { name: "Proud by" })
    .getByRole("button", { name: "2", exact: true })
    .click();
  await expect(
    page
      .getByRole("status")
      .filter({ hasText: /Right wall: take off up to \d+ mm/ }),
  ).toBeVisible();
  await page.getByText(/^3 of \d+ places, as a list$/).click();
  await expect(
    page.getByRole("button", { name: /^1 · right wall.*: gap 3 mm$/ }),
  ).toBeVisible();
  await expect(
    page.getByRole("button", { name: /^3 · right wall.*: proud 2 mm$/ }),
  ).toBeVisible();
  // It is kept.
  await page.reload();
  await page.getByRole("button", { name: "D1", exact: true }).click();
  await expect(page.getByText(/^3 of \d+ places, as a list$/)).toBeVisible();
  const project = await (
    await page.request.get(`${demo.address}/api/projects/moth`)
  ).json();
  expect(Object.keys(project.project.fits)).toHaveLength(1);
  for (let i = 2; i >= 0; i--) {
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(
      page.getByText(new RegExp(`^${i} of \\d+ places, as a list$`)),
    ).toBeVisible();
  }
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(
    page.getByRole("button", { name: "I hold it in its place" }),
  ).toBeVisible();
});

test("in inches a gap is tapped in sixteenths, and a mistake is corrected in the field", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/parts`);
  await page.getByRole("button", { name: /^in/ }).click();
  await page.getByRole("button", { name: "D1", exact: true }).click();
  await page.getByRole("button", { name: "I hold it in its place" }).click();
  const gap = page.getByRole("group", { name: "A gap of" });
  await gap.getByRole("button", { name: "3/16″", exact: true }).click();
  await page.getByText(/^1 of \d+ places, as a list$/).click();
  await page
    .getByRole("button", { name: /^1 · right wall.*: gap 3\/16 in$/ })
    .click();
  const exact = page.getByRole("textbox", { name: /^Exactly, right wall/ });
  await exact.fill("1/4");
  await exact.press("Enter");
  await expect(
    page.getByRole("button", { name: /^1 · right wall.*: gap 1\/4 in$/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByText(/^0 of \d+ places, as a list$/)).toBeVisible();
});

test("where the gap changes between two dots, the edge is tapped there", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/parts`);
  await page.getByRole("button", { name: "D1", exact: true }).click();
  await page.getByRole("button", { name: "I hold it in its place" }).click();
  const usual = page.getByRole("heading", {
    name: /^1 · right wall, \d+ mm forward$/,
  });
  await expect(usual).toBeVisible();
  const dots = page.locator(".fit .finer");
  const many = await dots.count();
  expect(many).toBeGreaterThan(20);
  // The one in the middle between the first two usual ones.
  await dots.nth(1).click();
  await expect(
    page.getByRole("heading", { name: /^between · / }),
  ).toBeVisible();
  await page
    .getByRole("group", { name: "A gap of" })
    .getByRole("button", { name: "4", exact: true })
    .click();
  // What is usually looked at is still asked, all of it.
  await expect(page.getByText(/^1 of \d+ places, as a list$/)).toBeVisible();
  await expect(usual).toBeVisible();
  // Without a pointer: from the list.
  await page.getByText(/^1 of \d+ places, as a list$/).click();
  await expect(page.getByRole("button", { name: /: gap 4 mm$/ })).toBeVisible();
  await page
    .getByRole("combobox", { name: "Another place on the edge" })
    .click();
  await page
    .getByRole("option", { name: /^front, \d+ mm right of the middle$/ })
    .first()
    .click();
  await expect(
    page.getByRole("heading", { name: /^between · front/ }),
  ).toBeVisible();
});

test("a captured curve is laid into the vehicle, and the berth goes by it until it is told not to", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/kingfisher/templates`);
  await expect(
    page.getByText("Laid in: the boards at the left wall go by it."),
  ).toBeVisible();
  const boards = async () => {
    const opened = await (
      await page.request.get(`${demo.address}/api/projects/kingfisher`)
    ).json();
    return JSON.stringify(opened.plan.decks[0].panels);
  };
  const by = await boards();
  await page.getByRole("button", { name: "Boards do not go by it" }).click();
  await expect(
    page.getByText("Laid in, but no board goes by it."),
  ).toBeVisible();
  const aside = await boards();
  expect(aside).not.toBe(by);
  await page.getByRole("button", { name: "Boards go by it again" }).click();
  await expect(
    page.getByText("Laid in: the boards at the left wall go by it."),
  ).toBeVisible();
  expect(await boards()).toBe(by);
  // A landmark that is wrong is told in words.
  const far = page
    .getByRole("group", { name: "Point 2" })
    .getByRole("textbox", { name: "vehicle: forward" });
  await far.fill("1400");
  await far.press("Enter");
  await expect(
    page.getByText(/Its two landmarks lie .* apart on the capture/).first(),
  ).toBeVisible();
  await page.getByRole("button", { name: "Remove point 2" }).click();
  await expect(
    page.getByText(/one point was found in the vehicle/).first(),
  ).toBeVisible();
});
