import { createRequire } from "node:module";
import PDFDocument from "pdfkit";

const require = createRequire(import.meta.url);
const FONT = "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next";
const LATIN = require.resolve(`${FONT}-latin-400-normal.woff`);
const FURTHER = require.resolve(`${FONT}-latin-ext-400-normal.woff`);
/** Letters that the first font file holds; those of other Latin alphabets are in the second. */
const IN_LATIN = /[\u0000-\u00FF\u0131\u0152\u0153\u02C6\u02DA\u02DC\u2000-\u206F\u20AC\u2122]/;

export const INK = "#14242B";
export const QUIET = "#44565D";
/** A millimetre in points. */
export const MM = 72 / 25.4;

/** The paper that documents are laid out for. */
export type Paper = "A4" | "A5" | "Letter";

/** A new document, with its title for whoever reads it aloud. */
export function newDocument(
  title: string,
  author: string,
  options: PDFKit.PDFDocumentOptions,
): PDFKit.PDFDocument {
  return new PDFDocument({
    info: { Title: title, Author: author },
    displayTitle: true,
    ...options,
  });
}

/** Writes a paragraph, each run of letters in the font file that holds them. */
export function write(
  doc: PDFKit.PDFDocument,
  text: string,
  {
    size,
    color,
    width,
    gap = 0,
    align = "left",
    x = doc.page.margins.left,
    y = doc.y + gap,
  }: {
    size: number;
    color: string;
    width: number;
    gap?: number;
    align?: "left" | "center";
    x?: number;
    y?: number;
  },
): void {
  const runs =
    text
      .replace(/[\r\n]+/g, " ")
      .match(new RegExp(`${IN_LATIN.source}+|[^${IN_LATIN.source.slice(1, -1)}]+`, "g")) ?? [];
  doc.fontSize(size).fillColor(color);
  for (const [at, run] of runs.entries()) {
    doc.font(IN_LATIN.test(run) ? LATIN : FURTHER);
    const options = { width, align, continued: at < runs.length - 1 };
    if (at === 0) doc.text(run, x, y, options);
    else doc.text(run, options);
  }
}

/** All octets of a document that is written. */
export function whole(doc: PDFKit.PDFDocument): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    doc.on("data", (chunk: Buffer) => chunks.push(chunk));
    doc.on("end", () => resolve(Buffer.concat(chunks)));
    doc.on("error", reject);
    doc.end();
  });
}

/** How high a text stands in a width, in points. */
export function heightOf(
  doc: PDFKit.PDFDocument,
  text: string,
  { size, width }: { size: number; width: number },
): number {
  return doc
    .font(LATIN)
    .fontSize(size)
    .heightOfString(text === "" ? " " : text, { width });
}
