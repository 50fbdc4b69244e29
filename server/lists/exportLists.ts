import ICAL from "ical.js";
import { utils, write } from "@e965/xlsx";
import Papa from "papaparse";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import type { Member } from "@amigo/contract/members";
import { t, type TextId } from "../texts/t";

/** A list with everybody on it, to be written as a file. */
export interface ListToExport {
  title: string;
  address: string;
  description: string;
  members: readonly Member[];
}

export const EXPORT_FORMATS = ["csv", "xlsx", "ods", "vcf", "txt"] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

const TYPES: Record<ExportFormat, string> = {
  csv: "text/csv; charset=utf-8",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
  vcf: "text/vcard; charset=utf-8",
  txt: "text/plain; charset=utf-8",
};
const HEAD: readonly TextId[] = [
  "lists.list",
  "lists.listAddress",
  "lists.name",
  "shared.address",
  "shared.what",
  "lists.role",
  "lists.onItBecause",
  "lists.whereItStands",
  "lists.since",
];

/** Lists as one file: a table with one row for each person, vCards with the list as a group, or plain addresses for pasting. */
export function exportLists(
  lists: readonly ListToExport[],
  format: ExportFormat,
): { bytes: Uint8Array; type: string } {
  const type = TYPES[format];
  if (format === "txt")
    return {
      bytes: encode(
        `${[...new Set(lists.flatMap(({ members }) => members.map(({ address }) => address)))].join("\r\n")}\r\n`,
      ),
      type,
    };
  if (format === "vcf") return { bytes: encode(vCards(lists)), type };
  const rows = [
    HEAD.map((id) => t(id)),
    ...lists.flatMap((list) => list.members.flatMap((member) => rowsOf(list, member))),
  ].map((row) => row.map(harmlessCell));
  // RFC 4180 lines, with a mark in front so that spreadsheet programs read UTF-8.
  if (format === "csv")
    return { bytes: encode(`\uFEFF${Papa.unparse(rows, { newline: "\r\n" })}\r\n`), type };
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet(rows), t("lists.members"));
  return {
    bytes: new Uint8Array(write(book, { bookType: format, type: "array" }) as ArrayBuffer),
    type,
  };
}

function rowsOf({ title, address }: ListToExport, member: Member): string[][] {
  const people =
    member.people.length === 0 ? [{ name: "", because: "", where: "" }] : member.people;
  return people.map(({ name, because, where }) => [
    title,
    address,
    name,
    member.address,
    member.what,
    member.role,
    [because, member.kept].filter((part) => part !== "").join("; "),
    where,
    member.since.slice(0, 10),
  ]);
}

/** One card for each address and one of kind `group` for each list that names its members: RFC 6350, sections 6.1.4 and 6.6.5. */
function vCards(lists: readonly ListToExport[]): string {
  const cards = new Map<string, string>();
  for (const { members } of lists)
    for (const { address, people } of members)
      if (!cards.has(address))
        cards.set(
          address,
          card([
            ["kind", "individual"],
            ["fn", people.map(({ name }) => name).join(", ") || address],
            ["email", address],
            ["uid", `mailto:${address}`, "uri"],
          ]),
        );
  const groups = lists.map(({ title, address, description, members }) =>
    card([
      ["kind", "group"],
      ["fn", title],
      ["email", address],
      ...(description === "" ? [] : [["note", description]]),
      ["uid", `mailto:${address}`, "uri"],
      ...members.map((member) => ["member", `mailto:${member.address}`, "uri"]),
    ]),
  );
  return [...groups, ...cards.values()].join("");
}

function card(properties: readonly (readonly string[])[]): string {
  const component = new ICAL.Component("vcard");
  for (const [name = "", value = "", type] of [["version", "4.0"], ...properties]) {
    const property = new ICAL.Property(name, component);
    if (type !== undefined) property.resetType(type);
    property.setValue(value);
    component.addProperty(property);
  }
  return `${component.toString()}\r\n`;
}

function encode(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}
