import type { APIRequestContext, Page } from "@playwright/test";
import { execFileSync } from "node:child_process";
import { BIN, expect, test } from "./jigfit";
import { Walker } from "./walker";

const ID = "moth-whole";

const STATES = {
  drive: { name: "drive", order: 1, open: {} },
  day: { name: "day", order: 2, open: {} },
  night: { name: "night", order: 3, open: {} },
};

async function patch(
  request: APIRequestContext,
  address: string,
  operations: object[],
) {
  const url = `${address}/api/projects/${ID}`;
  const opened = await (await request.get(url)).json();
  const answer = await request.fetch(url, {
    method: "PATCH",
    headers: {
      "content-type": "application/json-patch+json",
      "if-match": `"${opened.revision}"`,
    },
    data: JSON.stringify(operations),
  });
  expect(answer.status(), await answer.text()).toBe(200);
}

const units = (system: string) => [
  { op: "add", path: "/units/system", value: system },
  { op: "add", path: "/units/tape", value: system },
];

/** Fills every form that adds something, and presses every button that adds an entry. */
async function add(page: Page, walker: Walker, within: string) {
  const scope = page.locator(within);
  for (const form of await scope.locator("form:visible").all()) {
    const input = form
      .locator("input:not([type=checkbox]):not([role=combobox])")
      .first();
    if ((await input.count()) === 0) continue;
    const name = (await input.getAttribute("aria-label")) ?? "";
    const length = /place|height/i.test(name);
    await input.fill(
      length ? (walker.system === "in" ? "37 1/2" : "953") : 'screw "map" / 1',
    );
    await form.locator("button[type=submit]").click();
    await walker.quiet();
  }
  const buttons = scope.getByRole("button", { name: /^Add an? / });
  for (const button of await buttons.all()) {
    if (!(await button.isVisible()) || !(await button.isEnabled())) continue;
    await button.click();
    await walker.quiet();
  }
}

for (const system of ["mm", "in"] as const) {
  test(`every field and option takes what fits, in ${system}`, async ({
    page,
    demo,
  }) => {
    test.setTimeout(420_000);
    await patch(page.request, demo.address, units(system));
    const walker = new Walker(page, system);
    const stage = (name: string) =>
      page.goto(`${demo.address}/p/${ID}/${name}`);
    const filled: string[] = [];
    const walk = async (where: string, prefix = "") => {
      const before = walker.seen.size;
      await walker.unfold();
      await walker.walk(prefix);
      filled.push(`${where} ${walker.seen.size - before}`);
    };

    await stage("survey");
    await walk("survey");
    for (const dialog of ["Places and things", "Fixings, doors, datums"]) {
      await page.getByRole("button", { name: dialog }).click();
      await add(page, walker, "[role=dialog]");
      await walk(dialog);
      await page.keyboard.press("Escape");
    }
    for (const name of ["stow", "heights", "templates", "parts", "cut"]) {
      await stage(name);
      await expect(page.locator("main h2").first()).toBeVisible();
      await add(page, walker, "main");
      await walk(name);
    }
    expect(walker.refused).toEqual([]);
    expect(walker.seen.size, filled.join(", ")).toBeGreaterThan(60);
  });
}

/** The kinds of furniture that the program has. */
const KINDS = JSON.parse(execFileSync(BIN, ["kinds"]).toString()) as {
  kind: string;
}[];

for (const { kind } of KINDS) {
  test(`every choice of a ${kind} takes what fits or says what does`, async ({
    page,
    demo,
  }) => {
    test.setTimeout(240_000);
    await patch(page.request, demo.address, [
      ...units("in"),
      { op: "add", path: "/variants", value: {} },
      { op: "add", path: "/cutting/accepted", value: null },
      { op: "add", path: "/fits", value: {} },
      { op: "add", path: "/states", value: STATES },
      { op: "add", path: "/modules", value: {} },
    ]);
    const walker = new Walker(page, "in", true);
    const suggested = await page.request.post(
      `${demo.address}/api/projects/${ID}/suggest`,
      { data: { kind, set: [] } },
    );
    const found = await suggested.json();
    expect(suggested.status(), `${kind}: ${found.detail}`).toBe(200);
    await patch(page.request, demo.address, [
      { op: "add", path: `/modules/${found.id}`, value: found.module },
    ]);
    await page.goto(`${demo.address}/p/${ID}/layout`);
    await expect(page.locator(".choices")).toBeVisible();
    await walker.unfold();
    await walker.walk();
    await walker.unfold();
    await add(page, walker, ".choices");
    await walker.walk();
    expect(walker.refused).toEqual([]);
    expect(walker.seen.size).toBeGreaterThan(12);
    // Few values are ruled out by others.
    expect(walker.told.length, walker.told.join("\n")).toBeLessThan(8);
  });
}

test("nonsense is told at the field, and what is stored comes back", async ({
  page,
  demo,
}) => {
  test.setTimeout(240_000);
  const walker = new Walker(page, "mm");
  let fields = 0;
  for (const name of ["stow", "layout", "templates", "cut"]) {
    await page.goto(`${demo.address}/p/${ID}/${name}`);
    await expect(page.locator("main h2").first()).toBeVisible();
    await walker.unfold();
    fields += await walker.nonsense(name);
  }
  await page.goto(`${demo.address}/p/${ID}/survey`);
  await page.getByRole("button", { name: "Fixings, doors, datums" }).click();
  fields += await walker.nonsense("fittings");
  expect(fields).toBeGreaterThan(40);
  // Nothing was stored.
  const opened = await (
    await page.request.get(`${demo.address}/api/projects/${ID}`)
  ).json();
  expect(opened.revision).toBe(1);
});

test("a refused entry is gone after undo and after a reload", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/${ID}/stow`);
  const count = page.locator("[data-pointer$='/count'] input").first();
  const before = await count.inputValue();
  await count.fill("12 in");
  await count.press("Enter");
  await expect(
    page.locator("[data-pointer$='/count'] [role=alert]").first(),
  ).toBeVisible();
  await page.locator("main h2").first().click();
  await page.keyboard.press("z");
  await expect(count).toHaveValue(before);
  await count.fill("12 in");
  await count.press("Enter");
  await page.reload();
  await expect(count).toHaveValue(before);
});
