import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { makeSheetReader, type OpenedSheet, type SheetAnswer } from "./sheetReader";

const bytesOf = (file: string): ArrayBuffer => {
  const read = readFileSync(new URL(`../../demo/samples/${file}`, import.meta.url));
  return new Uint8Array(read).buffer;
};

function opened(answer: SheetAnswer): OpenedSheet {
  if (!answer.ok) throw new Error(answer.fault.sentence);
  return answer.opened;
}

const planOf = ({ table }: OpenedSheet) => ({
  sheet: table.sheet,
  headerRow: table.headerRow,
  columns: table.columns.map(({ title, meaning, slot }) => ({ title, meaning, slot })),
});

describe("a file opened on the page", () => {
  test("is understood with its counts, and nothing stands in the way", () => {
    const sheet = opened(
      makeSheetReader()({
        id: 1,
        ask: "open",
        bytes: bytesOf("autumn-roster.xlsx"),
        last: undefined,
      }),
    );
    expect(sheet).toMatchObject({
      students: 220,
      obstacle: undefined,
      notes: [],
      sheets: [
        { name: "Read me", rows: 2 },
        { name: "Roster", rows: 228 },
      ],
    });
    expect(sheet.faults).toHaveLength(38);
  });

  test("can be looked at by another sheet; one without titles is told in a sentence", () => {
    const read = makeSheetReader();
    read({ id: 1, ask: "open", bytes: bytesOf("autumn-roster.xlsx"), last: undefined });
    expect(read({ id: 2, ask: "sheet", sheet: "Read me", last: undefined })).toMatchObject({
      id: 2,
      ok: false,
      fault: { code: "no-header" },
    });
    expect(opened(read({ id: 3, ask: "sheet", sheet: "Roster", last: undefined })).students).toBe(
      220,
    );
  });

  test("can be given other meanings, and says what then stands in the way", () => {
    const read = makeSheetReader();
    const plan = planOf(
      opened(read({ id: 1, ask: "open", bytes: bytesOf("autumn-roster.ods"), last: undefined })),
    );
    const without = {
      ...plan,
      columns: plan.columns.map((column) =>
        column.meaning === "guardian.address"
          ? { ...column, meaning: "unread" as const, slot: 0 }
          : column,
      ),
    };
    const changed = opened(read({ id: 2, ask: "plan", plan: without }));
    expect(changed.obstacle?.code).toBe("no-address-column");
    expect(changed.faults).toEqual([]);
    expect(opened(read({ id: 3, ask: "plan", plan })).obstacle).toBeUndefined();
  });

  test("is compared with what the source was last read by", () => {
    const last = planOf(
      opened(
        makeSheetReader()({
          id: 1,
          ask: "open",
          bytes: bytesOf("autumn-roster.xlsx"),
          last: undefined,
        }),
      ),
    );
    const week2 = opened(
      makeSheetReader()({ id: 2, ask: "open", bytes: bytesOf("autumn-roster-week-2.xlsx"), last }),
    );
    expect(week2.notes.map(({ kind, sentence }) => `${kind}: ${sentence}`)).toEqual([
      'renamed: Classes: the column is called "Class group" now, it was "Class(es)".',
      'moved: Coach: the column "Coach" has moved.',
    ]);
  });

  test("that has little of what the source had is called strange, the same sheet a week on is not", () => {
    const last = planOf(
      opened(
        makeSheetReader()({
          id: 1,
          ask: "open",
          bytes: bytesOf("autumn-roster.xlsx"),
          last: undefined,
        }),
      ),
    );
    const strange = (file: string): boolean =>
      opened(makeSheetReader()({ id: 2, ask: "open", bytes: bytesOf(file), last })).strange;
    expect([
      strange("troupes.ods"),
      strange("contact-form.csv"),
      strange("autumn-roster-week-2.xlsx"),
      strange("autumn-roster.ods"),
    ]).toEqual([true, true, false, false]);
  });

  test("that was pasted is read like any other, and one that is no sheet is refused", () => {
    const read = makeSheetReader();
    expect(
      opened(
        read({
          id: 1,
          ask: "paste",
          text: "Surname\tFirst name\tEmail\nQuist\tBram\ta@lettr.example",
          last: undefined,
        }),
      ).students,
    ).toBe(1);
    expect(
      read({ id: 2, ask: "open", bytes: bytesOf("truth.json"), last: undefined }),
    ).toMatchObject({ ok: false, fault: { code: "not-a-spreadsheet" } });
  });

  test("has to be opened before anything is asked of it", () => {
    expect(
      makeSheetReader()({ id: 1, ask: "sheet", sheet: "Roster", last: undefined }),
    ).toMatchObject({ ok: false, fault: { sentence: "No file is open. Drop it again." } });
  });
});
