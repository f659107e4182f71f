import { expect, test } from "./jigfit";

test("a whole fit-out to begin with is laid beside the others, taken, and taken back", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  await page
    .getByRole("button", { name: "Whole fit-outs to begin with" })
    .click();
  const table = page.getByRole("group", { name: "Starting points" });
  await expect(table.getByText("As it is now")).toBeVisible({
    timeout: 30_000,
  });
  await expect(
    table.getByText(/Does not go here: No folded seat/),
  ).toBeVisible();
  const row = table.getByRole("row", { name: /Everything under the bed/ });
  await expect(
    row.getByText("gives up: Sleeper 1.84 cannot sit up"),
  ).toBeVisible();
  await row.getByRole("button", { name: "Begin with it" }).click();
  await expect(table).toHaveCount(0);
  await expect(page.getByText(/^1 piece/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText(/^3 pieces/)).toBeVisible();
});

test("a way to furnish it is kept as a variant, laid beside another, and taken again", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  const pieces = page.locator(".pieces .piece");
  await expect(pieces).toHaveCount(3);
  await page
    .getByLabel("Name for this way to furnish it")
    .fill("with a drawer");
  await page.getByRole("button", { name: "Keep it as a variant" }).click();
  const table = page.getByRole("group", { name: "Variants side by side" });
  await expect(table).toContainText("what is there now");
  await page.getByRole("button", { name: /^chart drawer/ }).click();
  await page.getByRole("button", { name: "Remove chart drawer" }).click();
  await expect(pieces).toHaveCount(2);
  // The drawer is one of its pieces, not of what is there now; it has more boards.
  const cells = table.getByRole("row", { name: /^Pieces/ }).getByRole("cell");
  await expect(cells.nth(0)).not.toContainText("chart drawer");
  await expect(cells.nth(1)).toContainText("chart drawer");
  // One piece of it alone, and back.
  await table
    .getByRole("button", { name: "Take the chart drawer of with a drawer" })
    .click();
  await expect(pieces).toHaveCount(3);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(pieces).toHaveCount(2);
  await table.getByRole("button", { name: "Take with a drawer" }).click();
  await expect(pieces).toHaveCount(3);
  await expect(table).toContainText("what is there now");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(pieces).toHaveCount(2);
  await table.getByRole("button", { name: "Forget with a drawer" }).click();
  await expect(table).toHaveCount(0);
});
