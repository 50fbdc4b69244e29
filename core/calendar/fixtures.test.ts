import { describe, expect, test } from "vitest";
import { readFixtures } from "./readFixtures";
import { readTimes } from "./readTimes";

const SETTING = { timeZone: "Europe/London", firstYear: 2026 };
const read = (...lines: string[]) => {
  const found = readFixtures(
    lines.map((line) => line.split("|").map((cell) => cell.trim())),
    SETTING,
  );
  if (!found.ok) throw new Error(found.fault);
  return found;
};

describe("times of day", () => {
  test.each<[string, string, string[] | undefined]>([
    ["18:00", "", ["18:00"]],
    ["18:00:00", "", ["18:00"]],
    ["6.30 pm", "", ["18:30"]],
    ["6pm", "", ["18:00"]],
    ["12 am", "", ["00:00"]],
    ["12.15 p.m.", "", ["12:15"]],
    ["18h30", "", ["18:30"]],
    ["18 Uhr", "", ["18:00"]],
    ["1800", "", ["18:00"]],
    ["900", "", ["09:00"]],
    ["18:00 - 19:30", "", ["18:00", "19:30"]],
    ["6 to 7.30 pm", "", ["18:00", "19:30"]],
    ["10:00–12:00", "", ["10:00", "12:00"]],
    ["10:00", "11:15", ["10:00", "11:15"]],
    ["", "", []],
    ["tbc", "", []],
    ["25:00", "", undefined],
    ["13 pm", "", undefined],
    ["after lunch", "", undefined],
    ["10:61", "", undefined],
    ["", "11:00", undefined],
    ["1:00 - 2:00 - 3:00", "", undefined],
  ])("%j, %j", (text, end, expected) => {
    expect(readTimes(text, end)).toEqual(expected);
  });
});

describe("a fixture list", () => {
  test("is read below its titles, whatever stands above, between and beneath", () => {
    const { fixtures, faults } = read(
      "Junior Troupe: autumn| | | |",
      "",
      "Date | Kick-off | Opponent | Venue | Team",
      "September | | | | ",
      "12 Sep 2026 | 14:00 | Ashford Flyers | Ashford Hall | Night Parade",
      "19 Sep 2026 | 10.30 am - 12 | Tollgate | Mill Loft | Night Parade",
      "Please be there half an hour before. | | | | ",
    );
    expect(faults).toEqual([]);
    expect(fixtures).toEqual([
      {
        row: 5,
        key: "night parade ashford flyers 1",
        title: "Ashford Flyers",
        place: "Ashford Hall",
        text: "",
        team: "Night Parade",
        sides: [],
        when: {
          allDay: false,
          from: "2026-09-12T14:00",
          until: "2026-09-12T15:00",
          zone: "Europe/London",
        },
      },
      {
        row: 6,
        key: "night parade tollgate 1",
        title: "Tollgate",
        place: "Mill Loft",
        text: "",
        team: "Night Parade",
        sides: [],
        when: {
          allDay: false,
          from: "2026-09-19T10:30",
          until: "2026-09-19T12:00",
          zone: "Europe/London",
        },
      },
    ]);
  });

  test("keeps what it knows a date by when the date moves, and tells several alike apart", () => {
    const list = (second: string) =>
      read("Date|Match", "3/9/2026|Ashford", `${second}|Ashford`, "30/9/2026|Tollgate").fixtures;
    expect(list("17/9/2026").map(({ key }) => key)).toEqual([
      "ashford 1",
      "ashford 2",
      "tollgate 1",
    ]);
    expect(list("24/9/2026").map(({ key }) => key)).toEqual(
      list("17/9/2026").map(({ key }) => key),
    );
  });

  test.each<[string, string[], string[]]>([
    [
      "months first, where one cell tells it",
      ["9/3/2026", "9/24/2026"],
      ["2026-09-03", "2026-09-24"],
    ],
    ["without a year, by the season", ["12 Sep", "9 Jan"], ["2026-09-12", "2027-01-09"]],
    ["as a spreadsheet counts them", ["2026-09-12", "46277"], ["2026-09-12", "2026-09-12"]],
    [
      "with their weekday",
      ["Sat 12 September 2026", "Saturday, 19.09.2026"],
      ["2026-09-12", "2026-09-19"],
    ],
  ])("has dates %s", (_, cells, expected) => {
    const { fixtures } = read("Day|Event", ...cells.map((cell, at) => `${cell}|Event ${at}`));
    expect(fixtures.map(({ when }) => when.from)).toEqual(expected);
  });

  test("in other languages, with the time beside the date or in it", () => {
    expect(
      read("Datum|Uhrzeit|Gegner|Ort|Mannschaft", "12.09.2026|14 Uhr|Aschfurt|Halle 2|Juniors")
        .fixtures[0],
    ).toMatchObject({ title: "Aschfurt", team: "Juniors", when: { from: "2026-09-12T14:00" } });
    expect(
      read("Fecha|Partido|Lugar", "12/09/2026 16:30|Ashford|Campo 1").fixtures[0],
    ).toMatchObject({
      place: "Campo 1",
      when: { from: "2026-09-12T16:30", until: "2026-09-12T17:30" },
    });
    expect(
      read("Date|End time|Start time|Event", "12 Sep 2026|12:00|10:00|Fair").fixtures[0]?.when,
    ).toMatchObject({ from: "2026-09-12T10:00", until: "2026-09-12T12:00" });
  });

  test("of two who meet has both in the title, and either can be the team", () => {
    expect(
      read("Date|Home team|Away team", "12 Sep 2026|Juniors|Ashford").fixtures[0],
    ).toMatchObject({
      title: "Juniors – Ashford",
      team: "",
      sides: ["Juniors", "Ashford"],
    });
    // A column that says where it is names nobody.
    expect(
      read("Date|Opponent|Home/Away|Team", "12 Sep 2026|Ashford|A|Juniors").fixtures[0],
    ).toMatchObject({ title: "Ashford", team: "Juniors", sides: [] });
  });

  test("tells which rows it can't read, and why", () => {
    const { fixtures, faults } = read(
      "Date|Time|Event",
      "someday|10:00|A",
      "12 Sep 2026|noonish|B",
      "31/02/2026|10:00|C",
      "12 Sep 2026|tbc|D",
    );
    expect(faults).toEqual([
      { row: 2, fault: "date", cell: "someday" },
      { row: 3, fault: "time", cell: "noonish" },
      { row: 4, fault: "date", cell: "31/02/2026" },
    ]);
    expect(fixtures).toMatchObject([{ title: "D", when: { allDay: true, from: "2026-09-12" } }]);
  });

  test.each([[[]], [[["Name", "Email"]]], [[["Date"]]], [[["12 Sep 2026", "Ashford"]]]])(
    "isn't one without titles: %j",
    (rows) => {
      expect(readFixtures(rows, SETTING)).toEqual({ ok: false, fault: "no header" });
    },
  );
});
