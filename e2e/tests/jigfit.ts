import { test as base, expect, type Page } from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";

/** The program that is tested. */
export const BIN =
  process.env.JIGFIT_BIN ??
  resolve(import.meta.dirname, "../../target/release/jigfit");

/** The real program on a data folder of its own. */
export class Program {
  private child: ChildProcess | null = null;
  address = "";

  constructor(
    readonly data: string,
    private readonly command: "serve" | "demo",
  ) {}

  async start(port = 0): Promise<void> {
    const child = spawn(
      BIN,
      [this.command, "--data", this.data, "--port", String(port)],
      {
        stdio: ["ignore", "pipe", "ignore"],
      },
    );
    this.child = child;
    for await (const chunk of child.stdout!) {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(String(chunk));
      if (found) {
        this.address = found[0];
        return;
      }
    }
    throw new Error(`${BIN} ended before it served`);
  }

  get port(): number {
    return Number(new URL(this.address).port);
  }

  async end(signal: NodeJS.Signals): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = once(child, "exit");
    child.kill(signal);
    await gone;
  }
}

async function running(
  command: "serve" | "demo",
  use: (p: Program) => Promise<void>,
) {
  const data = await mkdtemp(join(tmpdir(), "jigfit-e2e-"));
  const program = new Program(data, command);
  await program.start();
  await use(program);
  await program.end("SIGKILL");
  await rm(data, { recursive: true, force: true });
}

export const test = base.extend<{ empty: Program; demo: Program }>({
  empty: async ({}, use) => running("serve", use),
  demo: async ({}, use) => running("demo", use),
});

/** Types a reading into the tape bar and waits until the next number is asked for. */
export async function tape(page: Page, text: string): Promise<void> {
  const prompt = page.locator(".tape .what b");
  const before = await prompt.textContent();
  const entry = page.locator("#tape-entry");
  await entry.fill(text);
  await entry.press("Enter");
  await expect(prompt).not.toHaveText(before ?? "");
}

/** Fills a field of the document and waits until it is stored. */
export async function field(
  page: Page,
  label: string,
  text: string,
): Promise<void> {
  const input = page.getByLabel(label, { exact: true });
  const stored = page.waitForResponse((r) => r.request().method() === "PATCH");
  await input.fill(text);
  await input.press("Enter");
  expect((await stored).status()).toBe(200);
}

export { expect };
