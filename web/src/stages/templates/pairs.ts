/** Pasted lines as two entries each, in the tape language still; or what is wrong with them. */
export function pairs(text: string): [string, string][] | string {
  const MOST = 2000;
  const lines = text.split(/\r?\n/).filter((l) => l.trim());
  if (lines.length > MOST) return `${lines.length} lines are too many: at most ${MOST}.`;
  const out: [string, string][] = [];
  for (const [i, line] of lines.entries()) {
    // A tab or a semicolon parts them; a comma only where it is no decimal comma; else blanks.
    const by = /[\t;]/.test(line) ? /\s*[\t;]\s*/ : line.includes(", ") ? /,\s+/ : /[,\s]+/;
    const parts = line.trim().split(by).filter(Boolean);
    if (parts.length !== 2) return `Line ${i + 1} has ${parts.length} numbers: two are wanted.`;
    out.push([parts[0]!, parts[1]!]);
  }
  return out;
}
