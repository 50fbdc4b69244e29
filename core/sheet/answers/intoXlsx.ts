import { zipSync } from "fflate";
import { openArchive } from "../openArchive";
import { columnLetters, FILE_LIMITS } from "../sheet";
import type { SheetAnswers } from "./answerColumns";
import { ATTRIBUTES, attribute, toXml } from "./xml";

/** How wide the added columns are, in signs. */
const WIDTHS = [28, 48, 56];

/**
 * Writes columns at the end of sheets of an XLSX file and leaves every other octet of its parts as it is: reading it into a
 * library's model and writing that again would lose styles, widths, notes and whatever the model does not know.
 * Cells are ISO/IEC 29500-1, section 18.3.1.4, with inline strings (18.3.1.53).
 *
 * @returns undefined where a sheet is not to be found in the file
 */
export function intoXlsx(
  bytes: Uint8Array,
  answers: readonly SheetAnswers[],
): Uint8Array | undefined {
  const archive = openArchive(bytes, FILE_LIMITS);
  if (!archive.ok) return undefined;
  const { parts } = archive;
  const text = (name: string): string => new TextDecoder().decode(parts[name] ?? new Uint8Array());
  const targets = new Map(
    [
      ...text("xl/_rels/workbook.xml.rels").matchAll(
        new RegExp(`<(?:\\w+:)?Relationship(${ATTRIBUTES})`, "g"),
      ),
    ].map(([, value = ""]) => [attribute(value, "Id") ?? "", attribute(value, "Target") ?? ""]),
  );
  const sheets = new Map(
    [...text("xl/workbook.xml").matchAll(new RegExp(`<(?:\\w+:)?sheet(${ATTRIBUTES})`, "g"))].map(
      ([, value = ""]) => [
        attribute(value, "name") ?? "",
        targets.get(attribute(value, "\\w+:id") ?? "") ?? "",
      ],
    ),
  );
  for (const answer of answers) {
    const target = sheets.get(answer.sheet) ?? "";
    const name = target.startsWith("/") ? target.slice(1) : `xl/${target}`;
    if (parts[name] === undefined) return undefined;
    parts[name] = new TextEncoder().encode(intoSheet(text(name), answer));
  }
  return zipSync(parts);
}

function intoSheet(xml: string, { column, rows }: SheetAnswers): string {
  const last = columnLetters(column + WIDTHS.length - 1);
  let counted = 0;
  return withWidths(xml, column)
    .replace(
      /(<(?:\w+:)?dimension\s+ref=")([A-Z]+\d+)(?::[A-Z]+(\d+))?"/,
      (_, before: string, from: string, to: string | undefined) =>
        `${before}${from}:${last}${to ?? from.replace(/\D+/, "")}"`,
    )
    .replace(
      new RegExp(`<((?:\\w+:)?)row(${ATTRIBUTES})\\s*(?:/>|>([\\s\\S]*?)</\\1row>)`, "g"),
      (whole, prefix: string, attributes: string, inside: string | undefined) => {
        const number = Number(attribute(attributes, "r") ?? counted + 1);
        counted = number;
        const cells = rows.get(number - 1);
        return cells === undefined
          ? whole
          : `<${prefix}row${attributes.replace(/\sspans\s*=\s*(?:"[^"]*"|'[^']*')/, "")}>${intoRow(inside ?? "", prefix, column, number, cells)}</${prefix}row>`;
      },
    );
}

/** The row's own cells, those of Amigo in their place, then whatever stands beyond. Empty cells that only carry a style give way. */
function intoRow(
  inside: string,
  prefix: string,
  column: number,
  row: number,
  cells: readonly string[],
): string {
  const before: string[] = [];
  const after: string[] = [];
  let at = -1;
  for (const [whole, , attributes = ""] of inside.matchAll(
    new RegExp(`<((?:\\w+:)?)c(${ATTRIBUTES})\\s*(?:/>|>[\\s\\S]*?</\\1c>)`, "g"),
  )) {
    const reference = attribute(attributes, "r");
    at = reference === undefined ? at + 1 : columnOf(reference);
    if (at < column) before.push(whole);
    else if (at >= column + WIDTHS.length) after.push(whole);
  }
  const foundCells = cells.map(
    (cell, index) =>
      `<${prefix}c r="${columnLetters(column + index)}${row}" t="inlineStr"><${prefix}is><${prefix}t xml:space="preserve">${toXml(cell)}</${prefix}t></${prefix}is></${prefix}c>`,
  );
  return [...before, ...foundCells, ...after].join("");
}

/** Widths for the added columns, where the sheet has widths at all; a span that reaches over them is cut around them. */
function withWidths(xml: string, column: number): string {
  return xml.replace(
    /<((?:\w+:)?)cols>([\s\S]*?)<\/\1cols>/,
    (_, prefix: string, inside: string) => {
      const [first, last] = [column + 1, column + WIDTHS.length];
      const spans = [
        ...inside.matchAll(new RegExp(`<(?:\\w+:)?col(${ATTRIBUTES})\\s*/>`, "g")),
      ].flatMap(([whole, attributes = ""]): { from: number; text: string }[] => {
        const [from, to] = [
          Number(attribute(attributes, "min")),
          Number(attribute(attributes, "max")),
        ];
        const cut = (min: number, max: number): { from: number; text: string }[] =>
          min > max
            ? []
            : [
                {
                  from: min,
                  text: whole
                    .replace(/\smin="\d+"/, ` min="${min}"`)
                    .replace(/\smax="\d+"/, ` max="${max}"`),
                },
              ];
        return to < first || from > last
          ? [{ from, text: whole }]
          : [...cut(from, first - 1), ...cut(last + 1, to)];
      });
      const found = WIDTHS.map((width, index) => ({
        from: first + index,
        text: `<${prefix}col min="${first + index}" max="${first + index}" width="${width}" customWidth="1"/>`,
      }));
      return `<${prefix}cols>${[...spans, ...found]
        .sort((one, other) => one.from - other.from)
        .map(({ text }) => text)
        .join("")}</${prefix}cols>`;
    },
  );
}

/** A column by its letters, counted from 0. */
function columnOf(reference: string): number {
  return (
    [...reference.replace(/\d+$/, "")].reduce(
      (sum, letter) => sum * 26 + letter.charCodeAt(0) - 64,
      0,
    ) - 1
  );
}
