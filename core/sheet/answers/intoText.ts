import Papa from "papaparse";
import { decodeText, encodeText } from "../decodeText";
import { harmlessCell, isFormula, withApostrophe } from "../harmlessCell";
import { ANSWER_TITLES, separatorOf, type SheetAnswers } from "./answerColumns";

/**
 * Writes columns at the end of a text with separators. Its own lines stay as they were written, quotes, line ends and encoding
 * included, but for cells that a spreadsheet program would run as a formula: those get an apostrophe before them; a line that is shorter is filled up to where the columns begin, and one that was answered before is answered again. A sign of ours that the encoding lacks becomes `?`.
 */
export function intoText(
  bytes: Uint8Array,
  { column, rows }: SheetAnswers,
): Uint8Array | undefined {
  const decoded = decodeText(bytes);
  if (decoded === undefined) return undefined;
  const { text, encoding } = decoded;
  const wasAnswered = text.includes(ANSWER_TITLES[0]);
  const pieces: string[] = [];
  let from = 0;
  let row = 0;
  Papa.parse<string[]>(text, {
    delimiter: separatorOf(text),
    skipEmptyLines: false,
    step: ({ data, meta }) => {
      const line = text.slice(from, meta.cursor);
      const end = /\r?\n$|\r$/.exec(line)?.[0] ?? "";
      const cells = rows.get(row);
      const isRun = data.some(isFormula);
      const cut = isRun
        ? Papa.unparse([data.slice(0, wasAnswered ? column : undefined).map(withApostrophe)], {
            delimiter: meta.delimiter,
          })
        : cutAfter(
            line.slice(0, line.length - end.length),
            meta.delimiter,
            wasAnswered ? column : Infinity,
          );
      pieces.push(
        cells === undefined
          ? isRun
            ? `${cut}${end}`
            : line
          : `${cut}${meta.delimiter.repeat(Math.max(column - Math.min(data.length, column), 0))}${meta.delimiter}${Papa.unparse([cells.map((cell) => harmlessCell(cell.replace(/\s+/g, " ")))], { delimiter: meta.delimiter })}${end}`,
      );
      from = meta.cursor;
      row++;
    },
  });
  return encodeText(pieces.join("") + text.slice(from), encoding, bytes);
}

/** Returns the start of a line that has the given number of cells, as it is written. */
function cutAfter(line: string, delimiter: string, cells: number): string {
  let isQuoted = false;
  let met = 0;
  for (let at = 0; at < line.length; at++) {
    if (line[at] === '"') isQuoted = !isQuoted;
    else if (!isQuoted && line.startsWith(delimiter, at) && ++met === cells)
      return line.slice(0, at);
  }
  return line;
}
