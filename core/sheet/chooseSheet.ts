import { findHeader } from "./findHeader";
import type { Sheet, Workbook } from "./sheet";

/** Of several sheets the one that is most like a roster: titles that are known, addresses, many rows. */
export function chooseSheet(workbook: Workbook): Sheet | undefined {
  const visible = workbook.sheets.filter((sheet) => !sheet.hidden);
  const scored = (visible.length > 0 ? visible : workbook.sheets).map((sheet) => {
    const header = findHeader(sheet);
    const filled = sheet.rows.filter((row) => row.filter((cell) => cell !== "").length > 1);
    const addresses = filled.filter((row) => row.some((cell) => cell.includes("@"))).length;
    return {
      sheet,
      score:
        header === undefined
          ? -1
          : Math.min(header.points, 12) +
            Math.log2(1 + filled.length) +
            (addresses * 3 > filled.length ? 4 : addresses > 0 ? 1 : 0),
    };
  });
  return scored.sort((a, b) => b.score - a.score)[0]?.sheet;
}
