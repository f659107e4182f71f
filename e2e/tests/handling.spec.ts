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
  await expect(
    page.getByRole("link", { name: /^Moth Panel van/ }),
  ).toBeVisible();
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
  // Stages one after the other, help on demand.
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keyboard" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog", { name: "Keyboard" })).toBeHidden();
  await page.keyboard.press("]");
  await page.keyboard.press("]");
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
  const said = page.locator(".finding", { hasText: "It is left out." });
  await said.getByRole("button", { name: "Fix …" }).focus();
  await page.keyboard.press("Enter");
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
  await expect(page.getByRole("button", { name: /^S1( |$)/ })).toBeVisible();
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
    await expect(question).toHaveText("Length of the bay, at the floor");
    const wide = await page.evaluate(
      () => document.documentElement.scrollWidth,
    );
    expect(wide).toBeLessThanOrEqual(390);
    const press = async (keys: string[]) => {
      for (const k of keys)
        await page.getByRole("button", { name: k, exact: true }).click();
    };
    await press(["7", "8", "Next"]);
    // 78 mm is no bay.
    await expect(page.getByRole("alert")).toContainText("not possible");
    await press(["delete", "delete", "2", "0", "0", "cm"]);
    await expect(page.getByText("2000 mm")).toBeVisible();
    await press(["Next"]);
    await expect(question).toHaveText("Length of the bay, 500 mm over the floor");
    for (const key of await page.locator(".key").all())
      expect((await key.boundingBox())!.height).toBeGreaterThanOrEqual(44);
    // The last number is mended: the old one no longer counts, and nothing contradicts.
    await page.getByRole("button", { name: /^Mend last/ }).click();
    await expect(page.getByLabel("What the tape says")).toHaveValue("200 cm");
    await press(["delete", "delete", "delete", "delete", "delete", "delete"]);
    await press(["1", "9", "9", "cm", "Next"]);
    await expect(question).toHaveText("Length of the bay, 500 mm over the floor");
    await expect(page.getByRole("alert")).toHaveCount(0);
    const id = page.url().split("/")[4]!;
    const doc = await (
      await page.request.get(`${empty.address}/api/projects/${id}`)
    ).json();
    const readings = Object.values(doc.project.survey.readings) as {
      aside: boolean;
    }[];
    expect(readings.map((r) => r.aside)).toEqual([true, false]);
    // The phone sleeps half way through a number, and wakes.
    await press(["2", "0"]);
    await page.reload();
    await expect(page.getByLabel("What the tape says")).toHaveValue("20");
  });
});

test.describe("with an inch tape in the vehicle", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test("whole inches by key, the mark by tapping; far off is asked back once", async ({
    page,
    empty,
  }) => {
    await page.goto(empty.address);
    await page.getByLabel("What do you call it?").fill("Wren");
    await page.getByText("Inches, sixteenths").click();
    await page.getByRole("button", { name: "Start measuring" }).click();
    const question = page.locator(".question h2");
    await expect(question).toHaveText("Length of the bay, at the floor");
    const entry = page.getByLabel("What the tape says");
    const inch = page.getByRole("slider", { name: "Fraction of the inch" });
    const box = (await inch.boundingBox())!;
    const type = async (digits: string, sixteenth: number) => {
      for (const k of digits)
        await page.getByRole("button", { name: k, exact: true }).click();
      const x = box.width * ((14 + (332 * sixteenth) / 16) / 360);
      await inch.click({ position: { x, y: 30 } });
    };
    await type("39", 1);
    await expect(entry).toHaveValue("39 1/16");
    await expect(page.getByText("992.2 mm")).toBeVisible();
    await page.getByRole("button", { name: "Next", exact: true }).click();
    await expect(question).toHaveText("Length of the bay, 20″ over the floor");
    await expect(question.locator("mark")).toHaveText("20″ over the floor");
  });

  test("a number that nobody expects is asked back once", async ({
    page,
    demo,
  }) => {
    await page.request.patch(`${demo.address}/api/projects/moth`, {
      headers: { "if-match": "1" },
      data: [
        { op: "add", path: "/units/system", value: "in" },
        { op: "add", path: "/units/tape", value: "in" },
      ],
    });
    await page.goto(`${demo.address}/p/moth/survey`);
    const inch = page.getByRole("slider", { name: "Fraction of the inch" });
    const box = (await inch.boundingBox())!;
    for (const k of "24")
      await page.getByRole("button", { name: k, exact: true }).click();
    const x = box.width * ((14 + (332 * 7) / 16) / 360);
    await inch.click({ position: { x, y: 30 } });
    const next = page.getByRole("button", { name: "Next", exact: true });
    await next.click();
    await expect(page.getByText("24 7/16″? Expected")).toBeVisible();
    const count = async () => {
      const moth = await (
        await page.request.get(`${demo.address}/api/projects/moth`)
      ).json();
      return Object.keys(moth.project.survey.readings).length;
    };
    const before = await count();
    const stored = page.waitForResponse(
      (r) => r.request().method() === "PATCH",
    );
    await next.click();
    await stored;
    expect(await count()).toBe(before + 1);
  });
});

test("a phone joins over the network, types while the link is away, and is put out", async ({
  browser,
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/survey`);
  await page.getByRole("button", { name: "Menu" }).click();
  await page.getByRole("button", { name: "Let a phone in" }).click();
  await expect(page.getByText("not encrypted")).toBeVisible();
  await page.getByRole("button", { name: "Open to my network" }).click();
  const invitation = page.locator(".invite b");
  await expect(invitation).toHaveText(
    /^http:\/\/\d+\.\d+\.\d+\.\d+:\d+\/pair\//,
  );
  const address = new URL((await invitation.textContent())!);
  expect(address.hostname).not.toMatch(/^127\./);
  // Without a token: 401 and nothing else.
  const stranger = await page.request.get(`${address.origin}/`);
  expect(stranger.status()).toBe(401);
  const phone = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
  });
  const there = await phone.newPage();
  await there.goto(address.href);
  await expect(
    there.getByRole("link", { name: /^Moth Panel van/ }),
  ).toBeVisible();
  // The code was good once.
  expect((await page.request.get(address.href)).status()).toBe(401);
  // The link goes away in the middle of the survey.
  await there.goto(`${address.origin}/p/kingfisher/survey`);
  const entry = there.getByLabel("What the tape says");
  await expect(entry.or(there.getByText("Everything asked for"))).toBeVisible();
  const before = await (
    await page.request.get(`${demo.address}/api/projects/moth`)
  ).json();
  await there.goto(`${address.origin}/p/moth/survey`);
  await expect(entry).toBeVisible();
  await phone.setOffline(true);
  for (const k of ["7", "0", "5"])
    await there.getByRole("button", { name: k, exact: true }).click();
  const next = there.getByRole("button", { name: "Next", exact: true });
  await next.click();
  await expect(there.getByText("keep this page")).toBeVisible();
  await phone.setOffline(false);
  await expect(there.getByText("keep this page")).toBeHidden({
    timeout: 20_000,
  });
  const after = await (
    await page.request.get(`${demo.address}/api/projects/moth`)
  ).json();
  const count = (d: typeof before) =>
    Object.keys(d.project.survey.readings).length;
  expect(count(after)).toBe(count(before) + 1);
  // Put out, it gets 401 again.
  await page.getByRole("button", { name: "Look again" }).click();
  await page.getByRole("button", { name: /^Put .* out$/ }).click();
  await expect(page.getByText("No phone yet.")).toBeVisible();
  const shut = await there.request.get(`${address.origin}/api/projects`);
  expect(shut.status()).toBe(401);
  await phone.close();
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

test("a mass is typed in pounds and kept in kilograms", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/stow`);
  const mass = page.getByLabel("Mass", { exact: true }).first();
  await expect(mass).toHaveValue(/kg$/);
  await mass.fill("15 lb");
  await mass.press("Enter");
  await expect(mass).toHaveValue("6.8 kg");
  await mass.press("Escape");
  await page.locator("body").press("u");
  await expect(mass).toHaveValue("15 lb");
});

test("Escape closes a dialog after one of its drop-downs was used", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.address}/p/moth/survey`);
  await page.getByRole("button", { name: "Places and things" }).click();
  const dialog = page.getByRole("dialog", { name: /./ });
  await expect(dialog).toBeVisible();
  const kind = dialog.getByRole("combobox").first();
  await kind.focus();
  await page.keyboard.press("Enter");
  await expect(kind).toHaveAttribute("aria-expanded", "true");
  await page.keyboard.press("Escape");
  await expect(kind).toHaveAttribute("aria-expanded", "false");
  await expect(dialog).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
});

test("both views of the deck are in sight, and the open stage on the phone", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${demo.address}/p/moth/layout`);
  const side = page.getByRole("img", { name: /side/i }).first();
  await expect(side).toBeInViewport({ ratio: 0.95 });
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${demo.address}/p/moth/cut`);
  const here = page.locator(".stage-link.here");
  await expect(here).toBeInViewport({ ratio: 0.95 });
});
