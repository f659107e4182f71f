import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { expect, tape, test } from "./jigfit";

const VIEWS = ["survey", "stow", "heights", "layout", "parts", "cut"] as const;

test("no request leaves the machine, nothing breaks the policy", async ({
  page,
  demo,
}) => {
  const outside: string[] = [];
  const complaints: string[] = [];
  page.on("request", (r) => {
    if (new URL(r.url()).origin !== demo.address) outside.push(r.url());
  });
  page.on("console", (m) => {
    if (m.type() === "error") complaints.push(m.text());
  });
  page.on("pageerror", (e) => complaints.push(e.message));
  await page.goto(demo.address);
  await expect(page.getByRole("link", { name: /Moth/ })).toBeVisible();
  for (const view of VIEWS) {
    await page.goto(`${demo.address}/p/moth/${view}`);
    await expect(page.locator("#stage h2").first()).toBeVisible();
  }
  await page.getByRole("button", { name: "Menu" }).click();
  await expect(page.getByRole("dialog")).toBeVisible();
  expect(outside).toEqual([]);
  expect(complaints).toEqual([]);
});

test("the frame stays: only what is in it scrolls", async ({ page, demo }) => {
  for (const view of VIEWS) {
    await page.goto(`${demo.address}/p/moth/${view}`);
    await expect(page.locator("#stage h2").first()).toBeVisible();
    await page.evaluate(() => window.scrollTo(0, 400));
    expect(await page.evaluate(() => window.scrollY), view).toBe(0);
  }
});

for (const night of [false, true]) {
  test(`accessibility scan of every view, ${night ? "night" : "day"}`, async ({
    page,
    demo,
  }) => {
    test.slow();
    const axe = await readFile(
      createRequire(import.meta.url).resolve("axe-core/axe.min.js"),
      "utf8",
    );
    await page.addInitScript(
      (on) => localStorage.setItem("jigfit.night", on ? "yes" : "no"),
      night,
    );
    const serious: string[] = [];
    for (const path of [
      "/",
      ...VIEWS.map((v) => `/p/moth/${v}`),
      "/p/kingfisher/parts",
    ]) {
      await page.goto(demo.address + path);
      await expect(page.locator("h1, h2").first()).toBeVisible();
      // Through the debugger, which the page's own policy does not bind.
      const found = await page.evaluate(`${axe};
        axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"] }).then((r) =>
          r.violations.filter((v) => ["serious", "critical"].includes(v.impact))
            .map((v) => v.id + ": " + v.nodes.slice(0, 3).map((n) => n.html.slice(0, 120)).join(" | ")))`);
      serious.push(...(found as string[]).map((f) => `${path} ${f}`));
    }
    expect(serious).toEqual([]);
  });
}

test("everything with the keyboard alone", async ({ page, demo }) => {
  await page.goto(`${demo.address}/p/moth/survey`);
  await expect(page.locator("#tape-entry")).toBeVisible();
  // A reading.
  await page.keyboard.press("t");
  await expect(page.locator("#tape-entry")).toBeFocused();
  // The wall read twice is asked for once more; the third reading decides.
  await page.keyboard.type("708");
  await page.keyboard.press("Enter");
  await expect(page.locator("#tape-entry")).toHaveValue("");
  await expect(page.getByText("this reading says 697 mm")).toBeVisible();
  await page.locator("body").press("Escape");
  // Stages by number, help on demand.
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keyboard" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog", { name: "Keyboard" })).toBeHidden();
  await page.keyboard.press("3");
  await expect(page).toHaveURL(/heights/);
  // The deck by arrow keys.
  const deck = page.getByRole("slider");
  await deck.focus();
  await page.keyboard.press("ArrowDown");
  await expect(deck).toHaveAttribute("aria-valuenow", "251");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(deck).toHaveAttribute("aria-valuenow", "248");
  await page.evaluate(() =>
    (document.activeElement as HTMLElement | null)?.blur(),
  );
  await page.keyboard.press("z");
  await expect(deck).toHaveAttribute("aria-valuenow", "251");
  await page.keyboard.press("Shift+Z");
  await expect(deck).toHaveAttribute("aria-valuenow", "248");
  // An offer of the rail by Tab and Enter.
  await page.getByRole("button", { name: /^Do it: Set aside 697/ }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("It is left out.")).toHaveCount(0);
});

test("dragging the deck answers live and stores at the end", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/heights`);
  const deck = page.locator(".deck .grip");
  const box = (await deck.boundingBox())!;
  const from = { x: box.x + box.width / 2, y: box.y + box.height - 10 };
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x, from.y - 60, { steps: 6 });
  // Live, before anything is stored: the taller sleeper no longer sits up.
  await expect(
    page.locator(".finding.stop", { hasText: "Sleeper 1.84 cannot sit up" }),
  ).toBeVisible();
  const during = await (
    await page.request.get(`${demo.address}/api/projects/moth`)
  ).json();
  expect(during.revision).toBe(1);
  await page.mouse.up();
  await expect
    .poll(
      async () =>
        (
          await (
            await page.request.get(`${demo.address}/api/projects/moth`)
          ).json()
        ).revision,
    )
    .toBe(2);
});

test("a finding shows where, and its offer does what it says", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  const water = page.locator(".finding", {
    hasText: "Water can will not stand",
  });
  await water.getByRole("button", { name: "Numbers" }).click();
  await expect(water.getByText("missing")).toBeVisible();
  await water.getByRole("button", { name: "Show me" }).click();
  await expect(page).toHaveURL(/heights/);
  await expect(page.locator(".gear.marked")).toBeVisible();
  await water
    .getByRole("button", { name: /Lay Water can on its side/ })
    .click();
  await expect(water).toHaveCount(0);
});

test("a new choice changes the plan: legs, slats, one piece", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/layout`);
  const choose = async (label: string, option: string) => {
    const stored = page.waitForResponse(
      (r) => r.request().method() === "PATCH",
    );
    const field = page.locator(".field", {
      has: page.getByRole("combobox", { name: label }),
    });
    await field.locator(".el-select__wrapper").click();
    await page.getByRole("option", { name: option }).click();
    expect((await stored).status()).toBe(200);
  };
  await choose("Carried by", "rails on legs");
  await choose("Parted", "one piece");
  await expect(
    page.locator(".finding", { hasText: "larger than the sheet" }),
  ).toBeVisible();
  await choose("Top", "slats (where the mattress stays on)");
  await page.getByRole("link", { name: /^Parts/ }).click();
  await expect(page.getByRole("button", { name: /^L1/ })).toBeVisible();
  await expect(page.getByRole("button", { name: /^S1/ })).toBeVisible();
});

test.describe("in the vehicle, 390 wide", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test("one question, a keypad, and the disagreement at once", async ({
    page,
    empty,
  }) => {
    await page.goto(empty.address);
    await page.getByLabel("What do you call it?").fill("Wagon");
    await page.getByRole("button", { name: "Start measuring" }).click();
    const question = page.locator(".question h2");
    await expect(question).toHaveText("Length of the bay");
    const wide = await page.evaluate(
      () => document.documentElement.scrollWidth,
    );
    expect(wide).toBeLessThanOrEqual(390);
    const press = async (keys: string[]) => {
      for (const k of keys)
        await page.getByRole("button", { name: k, exact: true }).click();
    };
    await press(["7", "8", "1/2"]);
    await press(["Next"]);
    // 78 1/2 mm is no bay.
    await expect(page.getByRole("alert")).toContainText("not possible");
    await press([
      "delete",
      "delete",
      "delete",
      "delete",
      "delete",
      "delete",
      "2",
      "0",
      "0",
      "cm",
    ]);
    await expect(page.getByText("2000 mm")).toBeVisible();
    await press(["Next"]);
    await expect(question).toHaveText("Length of the bay, 500 mm up");
    for (const key of await page.locator(".key").all())
      expect((await key.boundingBox())!.height).toBeGreaterThanOrEqual(44);
    // Back measures the last one again; the second reading disagrees and says so here.
    await page.getByRole("button", { name: "Back" }).click();
    await expect(question).toHaveText("Length of the bay, again");
    await press(["1", "9", "0", "cm", "Next"]);
    await expect(page.getByRole("alert")).toContainText("do not agree");
    // One more reading would decide; it cannot be had.
    await expect(question).toHaveText("Again: Length of the bay");
    await page.getByRole("button", { name: "Can’t reach" }).click();
    await expect(question).toHaveText("Length of the bay, 500 mm up");
    // The phone sleeps half way through a number, and wakes.
    await press(["2", "0"]);
    await page.reload();
    await expect(page.getByLabel("What the tape says")).toHaveValue("20");
  });
});

test("the tape bar advances through what is missing", async ({
  page,
  demo,
}) => {
  await page.request.patch(`${demo.address}/api/projects/moth`, {
    headers: { "if-match": "1" },
    data: [
      { op: "add", path: "/gear/power/h", value: null },
      { op: "add", path: "/people/tall/stature", value: null },
    ],
  });
  await page.goto(`${demo.address}/p/moth/stow`);
  await expect(page.locator(".tape .what b")).toHaveText(
    "Power station, height",
  );
  await page.locator("#tape-entry").fill("9 in");
  await expect(page.locator("#tape-says")).toContainText("228.6 mm");
  await expect(page.locator("#tape-says")).toContainText("9″");
  await tape(page, "9 in");
  await expect(page.locator(".tape .what b")).toHaveText(
    "Sleeper 1.84, stature",
  );
});
