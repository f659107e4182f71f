const shelf = (key: string) => `jigfit.entry.${key}`;

/** A half-typed text that is kept in this browser under its key. */
export const draft = (key: string): string => localStorage.getItem(shelf(key)) ?? "";

/** Keeps it; an empty one is forgotten. */
export function keepDraft(key: string, text: string): void {
  if (text) localStorage.setItem(shelf(key), text);
  else localStorage.removeItem(shelf(key));
}
