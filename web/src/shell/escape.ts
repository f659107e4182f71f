/** Escape closes the dialog in which a shut drop-down has the focus: the drop-down would swallow it. */
export function closeOnEscape(event: KeyboardEvent): void {
  if (event.key !== "Escape" || !(event.target instanceof HTMLElement)) return;
  const box = event.target.closest("[role=combobox]");
  if (!box || box.getAttribute("aria-expanded") === "true") return;
  const close = box.closest(".el-dialog")?.querySelector<HTMLElement>(".el-dialog__headerbtn");
  if (!close) return;
  event.stopPropagation();
  close.click();
}
