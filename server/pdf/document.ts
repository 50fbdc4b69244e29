import PDFDocument from "pdfkit";
import { fontOf, isOtherScript, layOut, PLAIN, type Piece } from "./scripts";

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

interface Writing {
  size: number;
  color: string;
  width: number;
  gap?: number;
  align?: "left" | "center";
  x?: number;
  y?: number;
}

/** Writes a paragraph, each run of letters in the font file that holds them; from the right where its script begins there. */
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
  }: Writing,
): void {
  const line = text.replace(/[\r\n]+/g, " ");
  doc.fontSize(size).fillColor(color);
  if (isOtherScript(line)) {
    writeLines(doc, line, { size, width, align, x, y });
    return;
  }
  const runs = runsOf(line);
  for (const [at, run] of runs.entries()) {
    doc.font(fontOf(run));
    const options = { width, align, continued: at < runs.length - 1 };
    if (at === 0) doc.text(run, x, y, options);
    else doc.text(run, options);
  }
}

/** Cuts a text where the next letters are in another font file. */
function runsOf(text: string): string[] {
  const runs: string[] = [];
  for (const letter of text)
    if (runs.length > 0 && fontOf(runs.at(-1) ?? "") === fontOf(letter))
      runs[runs.length - 1] += letter;
    else runs.push(letter);
  return runs;
}

/** How wide a piece is. Letters that go from right to left are shaped together, for they join. */
const measureIn =
  (doc: PDFKit.PDFDocument, size: number) =>
  ({ text, font, turned }: Piece): number =>
    doc
      .font(font)
      .fontSize(size)
      .widthOfString(text, turned ? { features: [] } : {});

/** Writes a paragraph of other scripts, line by line. */
function writeLines(
  doc: PDFKit.PDFDocument,
  text: string,
  { size, width, align, x, y }: Required<Pick<Writing, "size" | "width" | "align" | "x" | "y">>,
): void {
  const measure = measureIn(doc, size);
  const { lines, fromRight } = layOut(text, width, measure);
  const height = lineHeight(doc, size);
  for (const [at, line] of lines.entries()) {
    const room = width - line.width;
    let left = x + (align === "center" ? room / 2 : fromRight ? room : 0);
    for (const piece of line.pieces) {
      doc.font(piece.font).text(piece.text, left, y + at * height + ASCENT * size, {
        lineBreak: false,
        baseline: "alphabetic",
        ...(piece.turned ? { features: [] } : {}),
      });
      left += measure(piece);
    }
  }
  doc.font(PLAIN);
  doc.x = x;
  doc.y = y + lines.length * height;
}

/** How far below the top of a line its letters stand, as a share of their size: the same for all fonts of a line. */
const ASCENT = 0.95;

/** How far lines of other scripts stand from each other: their letters are higher and go deeper. */
const lineHeight = (doc: PDFKit.PDFDocument, size: number): number =>
  1.2 * doc.font(PLAIN).fontSize(size).currentLineHeight(true);

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
  if (isOtherScript(text))
    return layOut(text, width, measureIn(doc, size)).lines.length * lineHeight(doc, size);
  return doc
    .font(PLAIN)
    .fontSize(size)
    .heightOfString(text === "" ? " " : text, { width });
}
