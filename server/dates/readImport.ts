import { readEvents } from "@amigo/core/calendar/readEvents";
import { readFixtures } from "@amigo/core/calendar/readFixtures";
import type { Repeat, SingleChange } from "@amigo/core/calendar/repeat";
import { decodeText } from "@amigo/core/sheet/decodeText";
import type { When } from "@amigo/core/calendar/when";
import { refused, type Refused } from "../refused";
import { openBook } from "../sandbox/openBook";
import { t } from "../texts/t";

/** A date as a file has it. */
export interface ImportedDate {
  row: number;
  key: string;
  title: string;
  place: string;
  text: string;
  link: string;
  team: string;
  sides: string[];
  when: When;
  repeat: Repeat | null;
  changes: SingleChange[];
}

/** What was read of a file. */
export interface ImportRead {
  dates: ImportedDate[];
  /** What can't be kept, with a sentence each. */
  left: { row: number; title: string; reason: string }[];
  isUnsure: boolean;
}

/** Reads the dates of a fixture list (a spreadsheet, or text with separators), or of an iCalendar file. */
export async function readImport(
  bytes: Uint8Array,
  setting: { timeZone: string; firstYear: number },
): Promise<ImportRead | Refused> {
  const text = decodeText(bytes)?.text ?? "";
  if (/^\s*BEGIN:VCALENDAR/i.test(text)) return readCalendar(text, setting.timeZone);
  const book = await openBook(bytes);
  if (!("sheets" in book)) return book;
  const found = book.sheets
    .filter(({ hidden }) => !hidden)
    .map((sheet) => readFixtures(sheet.rows, setting))
    .find((read) => read.ok);
  if (found?.ok !== true) return refused(422, "import/no-header", t("dates.noFixtures"), "file");
  return {
    dates: found.fixtures.map((fixture) => ({ ...fixture, link: "", repeat: null, changes: [] })),
    left: found.faults.map(({ row, fault, cell }) => ({
      row,
      title: cell,
      reason: fault === "date" ? t("dates.noDateInRow") : t("dates.noTimeInRow"),
    })),
    isUnsure: found.isUnsure,
  };
}

function readCalendar(text: string, zone: string): ImportRead | Refused {
  const read = readEvents(text, zone);
  if (!read.ok)
    return refused(
      422,
      "import/calendar",
      read.fault === "none" ? t("dates.noDatesInFile") : t("dates.fileCantBeRead"),
      "file",
    );
  return {
    dates: read.events
      .filter(({ isCancelled }) => !isCancelled)
      .map(({ uid, ...event }, index) => ({
        row: 0,
        key: uid === "" ? `${event.title} ${index}` : uid,
        team: "",
        sides: [],
        ...event,
      })),
    left: read.left.map((title) => ({ row: 0, title, reason: t("dates.cantBeRepeatedSo") })),
    isUnsure: false,
  };
}
