/** What a spreadsheet program would take for a formula or a command when it stands first in a cell. */
const FORMULA = /^[=+\-@\t\r|%]/;

/** What a program would run in a sheet that somebody else has written: a formula, but not a phone number or a dash. */
const RUNS = /^(?:[=@\t\r|%]|[+-](?![\d\s()./-]*$))/;

/** Whether a cell of a handed-back sheet would be run by a spreadsheet program. */
export function isFormula(text: string): boolean {
  return RUNS.test(text);
}

/** A cell of a handed-back sheet as it was before it was made harmless. */
export function withoutApostrophe(text: string): string {
  return text.startsWith("'") && isFormula(text.slice(1)) ? text.slice(1) : text;
}

/** A cell that no spreadsheet program reckons with: what looks like a formula gets an apostrophe before it. */
export function harmlessCell(text: string): string {
  return FORMULA.test(text) ? `'${text}` : text;
}
