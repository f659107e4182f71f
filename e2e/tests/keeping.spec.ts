import { expect, field, test } from "./jigfit";

test("undo works across a reload", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/stow`);
  await field(page, "Thickness", "100");
  await page.reload();
  await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue(
    "100",
  );
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue("80");
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue(
    "100",
  );
});

test("two tabs editing different things merge, and see each other", async ({
  context,
  demo,
}) => {
  const [a, b] = [await context.newPage(), await context.newPage()];
  for (const page of [a, b]) await page.goto(`${demo.address}/p/moth/stow`);
  await field(a, "Thickness", "90");
  await expect(b.getByLabel("Thickness", { exact: true })).toHaveValue("90");
  await field(b, "Goes down when sat on", "30");
  await expect(
    a.getByLabel("Goes down when sat on", { exact: true }),
  ).toHaveValue("30");
  await expect(a.getByLabel("Thickness", { exact: true })).toHaveValue("90");
});

for (const [choice, kept] of [
  ["Use mine", 111],
  ["Keep what is there", 99],
] as const) {
  test(`two tabs editing the same thing: ${choice}`, async ({
    context,
    demo,
  }) => {
    const page = await context.newPage();
    // This tab hears nothing of the other one.
    await page.route("**/events", (route) => route.abort());
    await page.goto(`${demo.address}/p/moth/stow`);
    await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue(
      "80",
    );
    await page.request.patch(`${demo.address}/api/projects/moth`, {
      headers: { "if-match": "1" },
      data: [{ op: "add", path: "/mattress/thickness", value: 99 }],
    });
    const input = page.getByLabel("Thickness", { exact: true });
    await input.fill("111");
    await input.press("Enter");
    const dialog = page.getByRole("dialog", {
      name: "Changed in another window",
    });
    await expect(dialog.locator(".theirs")).toHaveText("99");
    await expect(dialog.locator(".yours")).toHaveText("111");
    await dialog.getByRole("button", { name: choice }).click();
    await expect(dialog).toBeHidden();
    await expect
      .poll(async () => {
        const moth = await (
          await page.request.get(`${demo.address}/api/projects/moth`)
        ).json();
        return moth.project.mattress.thickness;
      })
      .toBe(kept);
  });
}

test("a kill in the middle loses nothing that was said to be saved", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/stow`);
  await field(page, "Thickness", "91");
  // In the top bar: on a busy machine the sign that the plan is being worked out is a status too.
  await expect(page.getByRole("banner").getByRole("status")).toContainText(
    "Saved",
  );
  const port = demo.port;
  await demo.end("SIGKILL");
  const input = page.getByLabel("Thickness", { exact: true });
  await input.fill("92");
  await input.press("Enter");
  await expect(
    page.locator(".field", { has: input }).getByRole("alert"),
  ).toContainText("does not answer");
  await demo.start(port);
  await input.press("Enter");
  await expect(
    page.locator(".field", { has: input }).getByRole("alert"),
  ).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue("92");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue("91");
});

test("a named version comes back", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/stow`);
  await page.getByRole("button", { name: "Menu" }).click();
  await page
    .getByLabel("Name for the state as it is")
    .fill("before I cut the deck");
  await page.getByRole("button", { name: "Keep this state" }).click();
  await expect(page.getByText("before I cut the deck")).toBeVisible();
  await page.keyboard.press("Escape");
  await field(page, "Thickness", "60");
  await page.getByRole("button", { name: "Menu" }).click();
  await page.getByRole("button", { name: /^Bring .* back$/ }).click();
  await expect(page.getByLabel("Thickness", { exact: true })).toHaveValue("80");
});
