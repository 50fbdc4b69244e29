/** What a spreadsheet program would take for a formula or a command when it stands first in a cell. */
const FORMULA = /^[=+\-@\t\r|%]/;

/** A cell that no spreadsheet program reckons with: what looks like a formula gets an apostrophe before it. */
export function harmlessCell(text: string): string {
  return FORMULA.test(text) ? `'${text}` : text;
}
