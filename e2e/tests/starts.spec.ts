import { expect, test } from "./jigfit";

test("a whole fit-out to begin with is laid beside the others, taken, and taken back", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  await page.getByRole("button", { name: "Whole fit-outs to begin with" }).click();
  const table = page.getByRole("group", { name: "Starting points" });
  await expect(table.getByText("As it is now")).toBeVisible({ timeout: 30_000 });
  await expect(table.getByText(/Does not go here: No folded seat/)).toBeVisible();
  const row = table.getByRole("row", { name: /Everything under the bed/ });
  await expect(row.getByText("gives up: Sleeper 1.84 cannot sit up")).toBeVisible();
  await row.getByRole("button", { name: "Begin with it" }).click();
  await expect(table).toHaveCount(0);
  await expect(page.getByText(/^1 piece/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText(/^3 pieces/)).toBeVisible();
});
