import { say } from "@amigo/language/say";
import { strToU8, zipSync, type Zippable } from "fflate";
import { describe, expect, test } from "vitest";
import { openArchive } from "./openArchive";
import { readWorkbook } from "./readWorkbook";
import { FILE_LIMITS, type FileLimits } from "./sheet";

const NAMESPACES =
  'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"';

const ods = (rows: string): Uint8Array =>
  zipSync({
    mimetype: [strToU8("application/vnd.oasis.opendocument.spreadsheet"), { level: 0 }],
    "META-INF/manifest.xml": strToU8("<manifest/>"),
    "styles.xml": strToU8("<styles/>"),
    "content.xml": strToU8(
      `<?xml version="1.0"?><office:document-content ${NAMESPACES}><office:body><office:spreadsheet><table:table table:name="S">${rows}</table:table></office:spreadsheet></office:body></office:document-content>`,
    ),
  });
const cell = (inside: string, attributes = ""): string =>
  `<table:table-cell office:value-type="string"${attributes}><text:p>${inside}</text:p></table:table-cell>`;
const row = (cells: string, attributes = ""): string =>
  `<table:table-row${attributes}>${cells}</table:table-row>`;

function read(bytes: Uint8Array, limits: FileLimits = FILE_LIMITS) {
  const found = readWorkbook(bytes, limits);
  return found.ok
    ? { code: "none", rows: found.workbook.sheets[0]?.rows ?? [] }
    : { code: found.fault.code, rows: [], sentence: found.fault.sentence };
}

describe("repeats in an ODS file", () => {
  test("of spaces are cut down before they are written out", () => {
    const { code, rows } = read(
      ods(row(cell(`Ida<text:s text:c="500000000"/>Holm`) + cell("x")).repeat(50)),
    );
    expect(code).toBe("none");
    expect(rows).toHaveLength(50);
    expect(rows[0]?.[0]?.length).toBeLessThan(1100);
  });

  test("of filled rows or cells are refused when they make too many cells", () => {
    const limits = { ...FILE_LIMITS, cells: 10_000 };
    expect(
      read(ods(row(cell("x", ' table:number-columns-repeated="2000000000"')).repeat(60)), limits)
        .code,
    ).toBe("too-many-cells");
    expect(read(ods(row(cell("x"), ' table:number-rows-repeated="2000000000"')), limits).code).toBe(
      "too-many-cells",
    );
    expect(
      read(ods(row(cell("x"), " table:number-rows-repeated = '2000000000'")), limits).code,
    ).toBe("too-many-cells");
  });

  test("of empty rows and cells, as every spreadsheet program writes them, are no cells", () => {
    const { rows } = read(
      ods(
        row(cell("Surname") + '<table:table-cell table:number-columns-repeated="16383"/>') +
          row(
            cell("Holm", ' table:number-columns-repeated="2"'),
            ' table:number-rows-repeated="3"',
          ) +
          row(
            '<table:table-cell table:number-columns-repeated="16384"/>',
            ' table:number-rows-repeated="1048000"',
          ),
      ),
    );
    expect(rows).toEqual([["Surname"], ["Holm", "Holm"], ["Holm", "Holm"], ["Holm", "Holm"]]);
  });
});

describe("an archive", () => {
  const parts: Zippable = { "a.xml": strToU8("<a/>".repeat(100)), "b.xml": strToU8("<b/>") };
  const code = (bytes: Uint8Array, limits = FILE_LIMITS): string => {
    const opened = openArchive(bytes, limits);
    return opened.ok ? "none" : opened.fault.code;
  };
  /** The archive with an octet changed in the first header of a kind. */
  const changed = (signature: number, offset: number, octet: number): Uint8Array => {
    const bytes = zipSync(parts);
    const view = new DataView(bytes.buffer);
    let at = 0;
    while (view.getUint32(at, true) !== signature) at++;
    bytes[at + offset] = octet;
    return bytes;
  };

  test("gives the parts that its directory names", () => {
    const opened = openArchive(zipSync(parts), FILE_LIMITS);
    expect(opened.ok && Object.keys(opened.parts)).toEqual(["a.xml", "b.xml"]);
    expect(opened.ok && new TextDecoder().decode(opened.parts["b.xml"])).toBe("<b/>");
  });

  test.each([
    ["name", 0x04034b50, 30],
    ["method", 0x04034b50, 8],
    ["packed size", 0x04034b50, 18],
    ["unpacked size", 0x04034b50, 22],
    ["name in the directory", 0x02014b50, 46],
    ["unpacked size in the directory", 0x02014b50, 24],
  ])("whose local and central headers differ in the %s is refused", (_, signature, offset) =>
    expect(code(changed(signature, offset, 7))).toBe("broken-file"),
  );

  test("that unpacks to more than both of its headers say is refused", () => {
    const bytes = changed(0x04034b50, 22, 7);
    const view = new DataView(bytes.buffer);
    const local = view.getUint32(22, true);
    let at = 0;
    while (view.getUint32(at, true) !== 0x02014b50) at++;
    view.setUint32(at + 24, local, true);
    expect(code(bytes)).toBe("unpacks-too-far");
  });

  test("whose entries share their octets is refused", () => {
    const bytes = zipSync({ "a.xml": strToU8("<a/>"), "b.xml": strToU8("<a/>") });
    const view = new DataView(bytes.buffer);
    const places: number[] = [];
    for (let at = 0; at + 4 < bytes.length; at++)
      if (view.getUint32(at, true) === 0x02014b50) places.push(at);
    view.setUint32((places[1] ?? 0) + 42, view.getUint32((places[0] ?? 0) + 42, true), true);
    bytes[(places[1] ?? 0) + 46] = "c".charCodeAt(0);
    expect(code(bytes)).toBe("broken-file");
  });

  test("cut off anywhere, or with any octet changed, is opened or refused, never more", () => {
    const bytes = zipSync(parts);
    for (let length = 0; length < bytes.length; length++)
      expect(code(bytes.subarray(0, length))).toBe("broken-file");
    for (let at = 0; at < bytes.length; at++) {
      const other = bytes.slice();
      other[at] = (other[at] ?? 0) ^ 0xff;
      expect(["none", "broken-file", "unpacks-too-far"]).toContain(code(other));
    }
  });
});

describe("text", () => {
  test("of millions of short lines is read up to the limit and refused", () => {
    const { code } = read(strToU8(`Name\n${"a\n".repeat(3_000_000)}`));
    expect(code).toBe("too-many-rows");
  });

  test("with many blank lines below is read", () =>
    expect(read(strToU8(`Name,Class\nIda,One\n${"\n".repeat(1000)}`)).rows).toHaveLength(2));

  test("with a quotation mark that is never closed is refused by its place", () => {
    const { code, sentence } = read(
      strToU8(`Name,Class\nIda,"One\n${"Bram,Two\n".repeat(10_000)}`),
    );
    expect(code).toBe("too-long-cell");
    expect(say(sentence)).toContain("Cell B2");
    expect(say(sentence)).toContain("quotation mark");
  });

  test("with more cells than the limit is refused", () =>
    expect(
      read(strToU8(`${"a,".repeat(50)}\n`.repeat(50)), { ...FILE_LIMITS, cells: 1000 }).code,
    ).toBe("too-many-cells"));
});
