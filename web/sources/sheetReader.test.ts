import { said, say } from "@amigo/language/say";
import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { makeSheetReader, type OpenedSheet, type SheetAnswer } from "./sheetReader";

const bytesOf = (file: string): ArrayBuffer => {
  const read = readFileSync(new URL(`../../demo/samples/${file}`, import.meta.url));
  return new Uint8Array(read).buffer;
};

function opened(answer: SheetAnswer): OpenedSheet {
  if (!answer.ok) throw new Error(say(answer.fault.sentence));
  return answer.opened;
}

const planOf = ({ plan }: OpenedSheet): OpenedSheet["plan"] => plan;

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
    expect(read({ id: 2, ask: "sheet", sheet: "Read me" })).toMatchObject({
      id: 2,
      ok: false,
      fault: { code: "no-header" },
    });
    expect(opened(read({ id: 3, ask: "sheet", sheet: "Roster" })).students).toBe(220);
  });

  test("can be given other meanings, and says what then stands in the way", () => {
    const read = makeSheetReader();
    const first = opened(
      read({ id: 1, ask: "open", bytes: bytesOf("autumn-roster.ods"), last: undefined }),
    );
    expect(first.questions).toEqual([]);
    const columns = first.table.columns.filter(({ meaning }) => meaning === "guardian.address");
    const changed = opened(
      read({
        id: 2,
        ask: "say",
        said: {
          columns: columns.map(({ index }) => ({ column: index, meaning: "unread", slot: 0 })),
        },
      }),
    );
    expect(changed.obstacle).toBeUndefined();
    expect(changed.remarks.map(say)).toContain(
      "No column holds email addresses: this sheet alone reaches nobody.",
    );
    expect(changed.remarks.map(say).join(" ")).toMatch(/Not used: .*\(email addresses\)/);
    expect(changed.faults).toEqual([]);
    const back = opened(
      read({
        id: 3,
        ask: "say",
        said: {
          columns: columns.map(({ index, meaning, slot }) => ({ column: index, meaning, slot })),
        },
      }),
    );
    expect(planOf(back)).toEqual(planOf(first));
  });

  test("that is unsure asks one question, and the answer settles it", () => {
    const read = makeSheetReader();
    const rows = Array.from({ length: 12 }, (_, at) =>
      [
        ["Ida", "Una", "Bram", "Wren"][at % 4],
        ["Brandt", "Holm", "Quist"][at % 3],
        ["Larks", "Owls"][at % 2],
        ["Blue", "Gold", "Green"][at % 3],
        `kite${at}@lettr.example`,
      ].join("\t"),
    );
    const asked = opened(
      read({
        id: 1,
        ask: "paste",
        text: ["First name\tSurname\tWuffle\tZorblat\tEmail", ...rows].join("\n"),
        last: undefined,
      }),
    );
    const [question] = said(asked.questions);
    expect(question?.about).toBe("Which column is the class?");
    const owls = question?.answers.find(({ label }) => label.includes("Wuffle"));
    expect(owls).toMatchObject({
      values: "2 values: Larks, Owls",
      effect: "Makes 2 classes with 6 children each.",
    });
    const answered = opened(read({ id: 2, ask: "say", said: { columns: owls?.sets ?? [] } }));
    expect(answered.questions).toEqual([]);
    expect(answered.table.columns[2]?.meaning).toBe("classes");
    expect(answered.table.columns[3]?.meaning).not.toBe("classes");
    // The next sheet of the source is read as it was answered, without a question.
    const again = opened(
      makeSheetReader()({
        id: 3,
        ask: "paste",
        text: ["First name\tSurname\tWuffle\tZorblat\tEmail", ...rows].join("\n"),
        last: answered.plan,
      }),
    );
    expect(again.questions).toEqual([]);
    expect(again.table.columns[2]?.meaning).toBe("classes");
  });

  test("can be told its row of titles, and that it has none", () => {
    const read = makeSheetReader();
    const text = "Ida\tBrandt\tida@lettr.example\nUna\tHolm\tuna@lettr.example";
    const first = opened(read({ id: 1, ask: "paste", text, last: undefined }));
    expect([first.table.headerRow, first.students]).toEqual([-1, 2]);
    const said = opened(read({ id: 2, ask: "say", said: { headerRow: 0 } }));
    expect([said.table.headerRow, said.students]).toEqual([0, 1]);
    expect(opened(read({ id: 3, ask: "say", said: { headerRow: -1 } })).students).toBe(2);
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
    expect(week2.notes.map(({ kind, sentence }) => `${kind}: ${say(sentence)}`)).toEqual([
      'renamed: Classes: the column is now called "Class group"; it was "Class(es)".',
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
    expect(said(makeSheetReader()({ id: 1, ask: "sheet", sheet: "Roster" }))).toMatchObject({
      ok: false,
      fault: { sentence: "No file is open. Drop it again." },
    });
  });
});
