/** What a spreadsheet program would take for a formula or a command when it stands first in a cell. */
const FORMULA = /^[=+\-@\t\r|%]/;

/** What a program would run in a sheet that somebody else has written: a formula, but not a phone number or a dash. */
const RUNS = /^(?:[=@\t\r|%]|[+-](?![\d\s()./-]*$))/;

/**
 * Whether a cell of a handed-back sheet gets an apostrophe before it: a spreadsheet program would run it, or it looks like one
 * that was made harmless before, so that it can be told from those when it is read again.
 */
export function isFormula(text: string): boolean {
  return RUNS.test(text.replace(/^'+/, ""));
}

/** A cell of a handed-back sheet that no spreadsheet program runs. */
export function withApostrophe(text: string): string {
  return isFormula(text) ? `'${text}` : text;
}

/** A cell of a handed-back sheet as it was before it was made harmless. */
export function withoutApostrophe(text: string): string {
  return text.startsWith("'") && isFormula(text.slice(1)) ? text.slice(1) : text;
}

/** A cell that no spreadsheet program reckons with: what looks like a formula gets an apostrophe before it. */
export function harmlessCell(text: string): string {
  return FORMULA.test(text) ? `'${text}` : text;
}
