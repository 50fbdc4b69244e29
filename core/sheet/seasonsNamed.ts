import type { TableInSheet } from "./table";

/**
 * The seasons that a file names in its own name, its sheets' names and the lines above the header, written as
 * the house writes them: `2026-27`. A date is no season: the second year must follow the first.
 */
export function seasonsNamed(file: string, tables: readonly TableInSheet[]): string[] {
  const texts = [
    file,
    ...tables.flatMap(({ sheet, table }) => [
      sheet.name,
      ...sheet.rows.slice(0, table.headerRow).flat(),
    ]),
  ];
  const found = texts.flatMap((text) => [
    ...text.matchAll(/(?<!\d)(20\d\d) ?[-/–_] ?(?:20)?(\d\d)(?![\d-])/g),
  ]);
  return [
    ...new Set(
      found
        .filter(([, first = "", second = ""]) => (Number(first) + 1) % 100 === Number(second))
        .map(([, first = "", second = ""]) => `${first}-${second}`),
    ),
  ];
}
