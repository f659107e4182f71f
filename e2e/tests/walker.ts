import type { Locator, Page, Response } from "@playwright/test";
import { expect } from "./jigfit";

/** Identifiers in a pointer are wildcards: one field of a list stands for all of them. */
export function wild(pointer: string): string {
  const keys = pointer.split("/");
  const lists = new Set([
    "modules",
    "gear",
    "people",
    "things",
    "levels",
    "stations",
    "fixings",
    "openings",
    "seats",
    "datums",
    "landmarks",
    "templates",
    "stock",
    "materials",
    "hatch_places",
    "leg_regions",
    "each",
    "states",
    "variants",
    "fits",
    "grades",
    "transfers",
    "readings",
    "candidates",
  ]);
  return keys
    .map((k, i) => (i > 0 && lists.has(keys[i - 1]!) ? "*" : k))
    .join("/");
}

const EDITS = ["PATCH", "POST"];

/** Types into every field that is in sight and picks every option, each once for a pointer; what is not 2xx fails the test. */
export class Walker {
  readonly seen = new Set<string>();
  /** Answers that were no success: what was sent, and what came back. */
  readonly refused: string[] = [];
  /** What a field refused with a sentence of its own, where that is put up with. */
  readonly told: string[] = [];

  constructor(
    readonly page: Page,
    readonly system: "mm" | "in",
    /** Choices hang together: a value that others rule out may be refused, at the field and with what it takes. */
    readonly lenient = false,
  ) {
    page.setDefaultTimeout(15_000);
    page.on("response", (r) => void this.look(r));
  }

  private async look(r: Response) {
    if (!EDITS.includes(r.request().method()) || r.ok()) return;
    if (this.lenient && r.status() === 422) return;
    const body = await r.text().catch(() => "");
    this.refused.push(
      `${r.status()} ${r.request().postData()?.slice(0, 300)} -> ${body.slice(0, 300)}`,
    );
  }

  /** Nothing is on its way to the store. */
  async quiet() {
    await expect(this.page.locator("[aria-busy='true']")).toHaveCount(0);
    await expect(this.page.locator("[data-saving='0']")).toBeAttached();
  }

  /** Unfolds what can be unfolded. */
  async unfold() {
    for (const summary of await this.page
      .locator("main details:not([open]) > summary")
      .all())
      if (await summary.isVisible()) await summary.click();
    const more = this.page.getByRole("button", { name: "More choices" });
    if (await more.isVisible()) await more.click();
  }

  /** The next field in sight that was not walked yet, and its pointer. */
  private async next(prefix: string): Promise<[Locator, string] | null> {
    const all = this.page.locator("[data-pointer]:visible");
    const pointers = await all.evaluateAll((list) =>
      list.map((e) => (e as HTMLElement).dataset.pointer ?? ""),
    );
    for (const pointer of pointers) {
      const key = prefix + wild(pointer);
      if (this.seen.has(key)) continue;
      this.seen.add(key);
      return [
        this.page
          .locator(`[data-pointer=${JSON.stringify(pointer)}]:visible`)
          .first(),
        pointer,
      ];
    }
    return null;
  }

  /** Walks all fields in sight; `prefix` tells kinds of pieces apart. */
  async walk(prefix = "") {
    for (;;) {
      const found = await this.next(prefix);
      if (!found) return;
      const [field] = found;
      const input = field.locator(
        "input:not([type=checkbox]):not([role=combobox])",
      );
      if ((await field.locator("[role=combobox]").count()) > 0)
        await this.pick(field);
      else if ((await field.getAttribute("class"))?.includes("el-checkbox"))
        await this.toggle(field);
      else if ((await input.count()) > 0) await this.type(field, input.first());
    }
  }

  private async commit(input: Locator, text: string) {
    await input.fill(text);
    await input.press("Enter");
    await this.quiet();
  }

  private async type(field: Locator, input: Locator) {
    const before = await input.inputValue();
    const add = field.getByRole("button", { name: "add" });
    if ((await add.count()) > 0) {
      await input.fill(this.system === "in" ? "11 1/2" : "290");
      await add.click();
      await this.quiet();
      return;
    }
    const kind = (await field.getAttribute("class")) ?? "";
    const number =
      kind.includes("number") || (await input.getAttribute("inputmode"));
    let text: string;
    if (kind.includes("text")) text = `${before || "name"} "a/b" ~screw`;
    else if (number) text = before || "2";
    else if (kind.includes("mass")) text = before ? before : "12";
    else if (!before) {
      const label = (await field.textContent()) ?? "";
      const small = /clearance|cable|hole|pipe|board|reach|floor/i.test(label);
      if (this.system === "in") text = small ? "3/4" : "11 13/16";
      else text = small ? "20" : "300";
    }
    // A mark less, or more where there is nothing to take off.
    else {
      const step = this.system === "in" ? "1/16" : "1";
      text = `${before} ${parseFloat(before) < 5 ? "+" : "-"} ${step}`;
    }
    await this.commit(input, text);
    const told = await field.getByRole("alert").allTextContents();
    // The field says what it takes: the least of that has to do.
    const least = this.lenient ? /Allowed: (.+?) to /.exec(told[0] ?? "")?.[1] : undefined;
    if (least) {
      this.told.push(`${await field.textContent()}`);
      await this.commit(input, least);
    }
    expect(
      await field.getByRole("alert").allTextContents(),
      `${await field.textContent()} takes ${least ?? text}`,
    ).toEqual([]);
    // Back to what it was, so that each field is tried by itself.
    if (before && text !== before) await this.commit(input, before);
    else if (!before) {
      await input.fill("");
      await input.press("Enter");
      await this.quiet();
    }
  }

  private async toggle(field: Locator) {
    for (let i = 0; i < 2; i++) {
      await field.click();
      await this.quiet();
    }
  }

  private async pick(field: Locator) {
    const box = field.locator("[role=combobox]");
    const label = (await box.getAttribute("aria-label")) ?? "";
    const first = await field.locator(".el-select__placeholder").textContent();
    // What is not chosen yet shows none of them.
    const unset = (await field.locator(".el-select__placeholder.is-transparent").count()) > 0;
    const open = async () => {
      await field.locator(".el-select__wrapper").click();
      const list = this.page.locator(".el-select-dropdown:visible");
      await expect(list).toBeVisible();
      return list;
    };
    let list = await open();
    const options = await list
      .locator(".el-select-dropdown__item")
      .allTextContents();
    const names = options.map((o) => o.trim());
    if (!unset)
      expect(names, `${label} shows one of its options`).toContain(first?.trim());
    await this.page.keyboard.press("Escape");
    await expect(list).toBeHidden();
    // The one it had comes last.
    const others = options.filter((o) => o.trim() !== first?.trim());
    for (const option of [...others, unset ? "" : (first ?? "")]) {
      if (!option) continue;
      list = await open();
      await list
        .locator(".el-select-dropdown__item")
        .filter({ hasText: new RegExp(`^\\s*${escaped(option.trim())}\\s*$`) })
        .first()
        .click();
      await expect(list).toBeHidden();
      await this.quiet();
      // A choice may take its own field away.
      if (!(await field.isVisible())) return;
      const refusal = await field.getByRole("alert").allTextContents();
      if (this.lenient && refusal.length) {
        // Refused, it shows what is stored.
        this.told.push(`${label}: ${option}: ${refusal[0]}`);
        await expect(field.locator(".el-select__placeholder")).not.toHaveText(option);
        continue;
      }
      expect(refusal, `${label}: ${option}`).toEqual([]);
    }
  }

  /** Types nonsense into every field in sight: it says so, and Escape brings back what is stored. */
  async nonsense(prefix = "") {
    const done = new Set<string>();
    for (const field of await this.page
      .locator("[data-pointer]:visible")
      .all()) {
      const pointer = (await field.getAttribute("data-pointer")) ?? "";
      const key = prefix + wild(pointer);
      const input = field
        .locator("input:not([type=checkbox]):not([role=combobox])")
        .first();
      if (done.has(key) || (await input.count()) === 0) continue;
      done.add(key);
      const kind = (await field.getAttribute("class")) ?? "";
      // Any text is a name.
      if (kind.includes("text")) continue;
      const before = await input.inputValue();
      await input.fill("12 furlongs ½x");
      await input.press("Enter");
      await expect(field.getByRole("alert"), pointer).toBeVisible();
      await input.press("Escape");
      await expect(input, pointer).toHaveValue(before);
      await expect(field.getByRole("alert")).toHaveCount(0);
    }
    return done.size;
  }
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}
