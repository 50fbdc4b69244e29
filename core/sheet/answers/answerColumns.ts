/** The columns that Amigo adds at the end of a sheet that it hands back: how its rows stand, on which lists they are, what is to be done. */
export const ANSWER_TITLES = ["Amigo: status", "Amigo: lists", "Amigo: to do"] as const;

/** What is written into the added columns of one sheet: by its rows, counted from 0, the header's among them. `column` is the first of them, counted from 0. */
export interface SheetAnswers {
  sheet: string;
  column: number;
  rows: ReadonlyMap<number, readonly string[]>;
}

/**
 * The sign between the cells of a text, as far as it can be told at once; empty for what is to be guessed. In a text that was
 * handed back it is the one before Amigo's titles, whatever signs stand in the cells.
 */
export function separatorOf(text: string): string {
  return (
    /([,;\t|])"?Amigo: status"?\1"?Amigo: lists/.exec(text)?.[1] ??
    (text.includes("\t") && !/^[^\n]*;/.test(text) ? "\t" : "")
  );
}

/** In which of its first rows a sheet's titles are looked for. */
const HEADER_WITHIN = 60;

/**
 * Rows without the columns that Amigo itself has added, so that a sheet that was handed back is read as it was before. Only a
 * header that holds just Amigo's titles, next to each other and at its end, is one of ours.
 */
export function withoutAnswers(rows: string[][]): string[][] {
  const [first] = ANSWER_TITLES;
  const header = rows.slice(0, HEADER_WITHIN).find((row) => {
    const at = row.indexOf(first);
    return (
      at > 0 &&
      at + ANSWER_TITLES.length === row.length &&
      ANSWER_TITLES.every((title, index) => row[at + index] === title)
    );
  });
  const at = header?.indexOf(first);
  if (at === undefined) return rows;
  const cut = rows.map((row) => {
    const foundRow = row.slice(0, at);
    while (foundRow.length > 0 && foundRow[foundRow.length - 1] === "") foundRow.pop();
    return foundRow;
  });
  while (cut.length > 0 && cut[cut.length - 1]?.length === 0) cut.pop();
  return cut;
}
