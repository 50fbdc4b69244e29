import QRCode from "qrcode";
import { INK, MM, newDocument, QUIET, whole, write, type Paper } from "../pdf/document";
import { t } from "../texts/t";

/** The code that leads to an address (ISO/IEC 18004), as SVG. */
export function qrSvg(url: string): Promise<string> {
  return QRCode.toString(url, {
    type: "svg",
    errorCorrectionLevel: "M",
    margin: 4,
    color: { dark: "#000000", light: "#ffffff" },
  });
}

/** The same as PNG, large enough for print. */
export function qrPng(url: string): Promise<Buffer> {
  return QRCode.toBuffer(url, { type: "png", errorCorrectionLevel: "M", margin: 4, width: 1200 });
}

/** A notice to hang up or hand out, as PDF: what it is about, the code, the short address, and a line of text. */
export async function noticePdf({
  house,
  title,
  line,
  url,
  language,
  paper,
}: {
  house: string;
  title: string;
  line: string;
  url: string;
  language: string;
  paper: Paper;
}): Promise<Buffer> {
  const size = paper === "Letter" ? "LETTER" : paper;
  const doc = newDocument(title, house, { size, margin: 14 * MM, lang: language });
  const width = doc.page.width - 28 * MM;
  write(doc, house, { size: 12, color: QUIET, width });
  write(doc, title, { size: 26, color: INK, width, gap: 3 * MM });
  if (line !== "") write(doc, line, { size: 14, color: INK, width, gap: 5 * MM });
  const side = Math.min(
    width,
    doc.page.height - doc.y - 32 * MM,
    paper === "A5" ? 92 * MM : 120 * MM,
  );
  doc.image(await qrPng(url), (doc.page.width - side) / 2, doc.y + 4 * MM, { width: side });
  doc.y += side + 8 * MM;
  write(doc, url.replace(/^https?:\/\//, ""), { size: 15, color: INK, width, align: "center" });
  return whole(doc);
}

/** Slips to cut out, ten to a page of A4 and eight to one of Letter, each with the personal code of one child. */
export async function slipsPdf({
  house,
  title,
  slips,
  paper,
}: {
  house: string;
  title: string;
  paper: "A4" | "Letter";
  slips: readonly { name: string; classes: string; code: string; url: string }[];
}): Promise<Buffer> {
  const doc = newDocument(title, house, {
    size: paper === "A4" ? "A4" : "LETTER",
    margin: 0,
    autoFirstPage: false,
  });
  const each = paper === "A4" ? 10 : 8;
  const [width, height] = [105 * MM, 59 * MM];
  if (slips.length === 0) {
    doc.addPage();
    write(doc, t("forms.nobodyIsMissing"), {
      size: 14,
      color: INK,
      width: 150 * MM,
      x: 20 * MM,
      y: 20 * MM,
    });
  }
  for (const [at, slip] of slips.entries()) {
    if (at % each === 0) doc.addPage();
    const [left, top] = [(at % 2) * width, Math.floor((at % each) / 2) * height];
    doc
      .rect(left, top, width, height)
      .dash(2, { space: 3 })
      .strokeColor("#9AA8AC")
      .stroke()
      .undash();
    const side = 34 * MM;
    doc.image(
      await QRCode.toBuffer(slip.url, { type: "png", margin: 2, width: 420 }),
      left + width - side - 5 * MM,
      top + 12 * MM,
      { width: side },
    );
    const text = { width: width - side - 16 * MM, x: left + 7 * MM };
    write(doc, house, { size: 8, color: QUIET, ...text, y: top + 7 * MM });
    write(doc, title, { size: 12, color: INK, ...text, gap: 1 * MM });
    write(doc, slip.name, { size: 11, color: INK, ...text, gap: 2 * MM });
    write(doc, slip.classes, { size: 9, color: QUIET, ...text });
    write(doc, t("forms.code", { code: slip.code }), {
      size: 11,
      color: INK,
      ...text,
      gap: 2 * MM,
    });
    write(doc, slip.url.replace(/^https?:\/\//, "").replace(/\?.*/, ""), {
      size: 8,
      color: QUIET,
      ...text,
      gap: 1 * MM,
    });
  }
  return whole(doc);
}
