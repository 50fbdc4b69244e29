import { tidyLine } from "../text/tidy";

export function isMark(text: string): boolean {
  return text !== "" && !/^(?:0|-|–|no|n|nein|non|false|nej|nie|ne|ei|hayır)$/i.test(text);
}

/** Takes the choices in one cell apart: by semicolon, bar, line break, or comma. */
export function splitChoices(cell: string): string[] {
  return [
    ...new Set(
      cell
        .split(/[;|\n\r,]+/)
        .map(tidyLine)
        .filter((choice) => choice !== ""),
    ),
  ];
}
