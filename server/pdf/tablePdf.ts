import { heightOf, INK, MM, newDocument, QUIET, whole, write } from "./document";

/** A table to print: some columns by their share of the width, and its rows cell by cell. */
export interface PrintedTable {
  house: string;
  title: string;
  /** One line below the title. */
  line: string;
  paper: "A4" | "Letter";
  /** By BCP 47, for whoever reads it aloud. */
  language: string;
  columns: readonly { title: string; share: number }[];
  /** Each cell is some lines. A row of one cell alone goes over the whole width. */
  rows: readonly (readonly (readonly string[])[])[];
  /** What is printed where there are no rows. */
  empty: string;
}

const MARGIN = 15 * MM;
const SIZE = 9;
const GAP = 2 * MM;

/** A table on its way to paper: the document, the places of its columns, and how far down the page it is. */
interface Drawing {
  doc: PDFKit.PDFDocument;
  table: PrintedTable;
  width: number;
  widths: readonly number[];
  lefts: readonly number[];
  y: number;
}

/** Makes a table as PDF: its titles on top of every page, no row torn apart, each page with its number. */
export async function tablePdf(table: PrintedTable): Promise<Buffer> {
  const { house, title, line, paper, language, columns, rows, empty } = table;
  const doc = newDocument(title, house, {
    size: paper === "A4" ? "A4" : "LETTER",
    margin: MARGIN,
    lang: language,
    bufferPages: true,
  });
  const width = doc.page.width - 2 * MARGIN;
  const shares = columns.reduce((sum, { share }) => sum + share, 0);
  const widths = columns.map(({ share }) => (width * share) / shares);
  const lefts = widths.map(
    (_, at) => MARGIN + widths.slice(0, at).reduce((sum, before) => sum + before, 0),
  );
  write(doc, title, { size: 18, color: INK, width });
  write(doc, [house, line].filter((part) => part !== "").join(", "), {
    size: 10,
    color: QUIET,
    width,
    gap: 1 * MM,
  });
  const drawing: Drawing = { doc, table, width, widths, lefts, y: doc.y + 4 * MM };
  drawTitles(drawing);
  for (const cells of rows.length === 0 ? [[[empty]]] : rows) drawRow(drawing, cells);
  numberPages(drawing);
  return whole(doc);
}

function drawRule({ doc, width, y }: Drawing, color: string): void {
  doc
    .moveTo(MARGIN, y)
    .lineTo(MARGIN + width, y)
    .lineWidth(0.5)
    .strokeColor(color)
    .stroke();
}

function drawTitles(drawing: Drawing): void {
  const { doc, table, widths, lefts } = drawing;
  table.columns.forEach((column, at) =>
    write(doc, column.title, {
      size: 8.5,
      color: QUIET,
      width: (widths[at] ?? 0) - GAP,
      x: lefts[at] ?? MARGIN,
      y: drawing.y,
    }),
  );
  drawing.y += 5 * MM;
  drawRule(drawing, "#44565D");
  drawing.y += 1.2 * MM;
}

/** Draws a row, on a new page where it doesn't fit any more. Lines of one row stand side by side across its cells, however much one of them wraps. */
function drawRow(drawing: Drawing, cells: readonly (readonly string[])[]): void {
  const { doc, width, widths, lefts } = drawing;
  const isWide = cells.length === 1;
  const widthAt = (at: number): number => (isWide ? width : (widths[at] ?? 0)) - GAP;
  const lineHeights = Array.from(
    { length: Math.max(1, ...cells.map((lines) => lines.length)) },
    (_, line) =>
      Math.max(
        ...cells.map((lines, at) =>
          heightOf(doc, lines[line] ?? "", { size: SIZE, width: widthAt(at) }),
        ),
      ),
  );
  const height = lineHeights.reduce((sum, lineHeight) => sum + lineHeight, 0) + 1.6 * MM;
  if (drawing.y + height > doc.page.height - MARGIN - 6 * MM) {
    doc.addPage();
    drawing.y = MARGIN;
    drawTitles(drawing);
  }
  cells.forEach((lines, at) => {
    let top = drawing.y;
    for (const [line, text] of lines.entries()) {
      write(doc, text === "" ? " " : text, {
        size: SIZE,
        color: isWide ? QUIET : INK,
        width: widthAt(at),
        x: lefts[at] ?? MARGIN,
        y: top,
      });
      top += lineHeights[line] ?? 0;
    }
  });
  drawing.y += height;
  drawRule(drawing, "#D3DCDA");
  drawing.y += 1 * MM;
}

function numberPages({ doc, width }: Drawing): void {
  const pages = doc.bufferedPageRange().count;
  for (let page = 0; page < pages; page++) {
    doc.switchToPage(page);
    // Below the margin nothing is written unless the margin is out of the way.
    doc.page.margins.bottom = 0;
    write(doc, `${page + 1} / ${pages}`, {
      size: 8,
      color: QUIET,
      width,
      align: "center",
      x: MARGIN,
      y: doc.page.height - MARGIN + 2 * MM,
    });
  }
}
