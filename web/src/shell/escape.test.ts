import { afterEach, beforeEach, expect, it } from "vitest";
import { closeOnEscape } from "./escape";

let shut = 0;
let seen = 0;
beforeEach(() => {
  shut = 0;
  seen = 0;
  document.body.innerHTML = `<div class="el-dialog"><button class="el-dialog__headerbtn"></button>
    <input role="combobox" aria-expanded="false" /><input id="plain" /></div>`;
  document.querySelector("button")!.addEventListener("click", () => (shut += 1));
  document.querySelector("input")!.addEventListener("keydown", () => (seen += 1));
  document.addEventListener("keydown", closeOnEscape, true);
});
afterEach(() => document.removeEventListener("keydown", closeOnEscape, true));

function press(selector: string, key = "Escape") {
  const event = new KeyboardEvent("keydown", { key, bubbles: true });
  document.querySelector(selector)!.dispatchEvent(event);
}

it("closes the dialog from a drop-down that is shut", () => {
  press("[role=combobox]");
  expect([shut, seen]).toEqual([1, 0]);
});

it("leaves an open drop-down and other keys to the drop-down, other fields to the dialog", () => {
  press("[role=combobox]", "a");
  document.querySelector("input")!.setAttribute("aria-expanded", "true");
  press("[role=combobox]");
  press("#plain");
  expect([shut, seen]).toEqual([0, 2]);
});
