import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { dateOrder } from "./dateOrder";
import { readMoment, type DateOrder } from "./readMoment";

const read = (text: string, order: DateOrder = "day first", timeZone = "UTC") =>
  readMoment(text, { order, timeZone, firstYear: 2026 })?.slice(0, 16);

describe("a written date", () => {
  test.each<[string, string | undefined]>([
    ["2026-09-03", "2026-09-03T00:00"],
    ["2026-09-03 14:05", "2026-09-03T14:05"],
    ["2026-09-03T14:05:09Z", "2026-09-03T14:05"],
    ["2026-09-03T14:05:09.123+02:00", "2026-09-03T12:05"],
    ["2026/09/03 2:05:09 PM GMT+2", "2026-09-03T12:05"],
    ["03/09/2026 14:05:06", "2026-09-03T14:05"],
    ["3.9.2026", "2026-09-03T00:00"],
    ["28.08.", "2026-08-28T00:00"],
    ["28/08", "2026-08-28T00:00"],
    ["03.02.", "2027-02-03T00:00"],
    ["3/9/26 9:15", "2026-09-03T09:15"],
    ["3 September 2026 at 14:05", "2026-09-03T14:05"],
    ["3rd of September 2026", "2026-09-03T00:00"],
    ["Thursday, 3 September 2026, 2:05 pm", "2026-09-03T14:05"],
    ["September 3, 2026 2:05 PM", "2026-09-03T14:05"],
    ["Thu Sep 03 2026 14:05:00 GMT+0200 (CEST)", "2026-09-03T12:05"],
    ["3. septembra 2026", undefined],
    ["3. September 2026, 14.05", "2026-09-03T14:05"],
    ["3 de septiembre de 2026", "2026-09-03T00:00"],
    ["3 septembre 2026", "2026-09-03T00:00"],
    ["46268.5", "2026-09-03T12:00"],
    ["12:30 AM", undefined],
    ["31/02/2026", undefined],
    ["soon", undefined],
    ["", undefined],
    [`${"9".repeat(50_000)}/`, undefined],
  ])("%s is %s", (text, wanted) => expect(read(text)).toBe(wanted));

  test("midnight and noon of a 12-hour clock", () => {
    expect(read("9/3/2026 12:10 AM", "month first")).toBe("2026-09-03T00:10");
    expect(read("9/3/2026 12:10 p.m.", "month first")).toBe("2026-09-03T12:10");
  });

  test("a time without a zone is by the school's clocks, in summer and in winter", () => {
    expect(read("2026-07-01 12:00", "day first", "Europe/Prague")).toBe("2026-07-01T10:00");
    expect(read("2026-12-01 12:00", "day first", "Europe/Prague")).toBe("2026-12-01T11:00");
    expect(read("2026-12-01 12:00", "day first", "America/Chicago")).toBe("2026-12-01T18:00");
  });

  test("is read back from any way of writing it", () => {
    const instant = fc.integer({ min: Date.UTC(2015, 0), max: Date.UTC(2035, 0) });
    const pad = (value: number): string => String(value).padStart(2, "0");
    fc.assert(
      fc.property(instant, fc.nat(4), (at, way) => {
        const date = new Date(Math.floor(at / 60_000) * 60_000);
        const [year, month, day] = [
          date.getUTCFullYear(),
          date.getUTCMonth() + 1,
          date.getUTCDate(),
        ];
        const time = `${date.getUTCHours()}:${pad(date.getUTCMinutes())}`;
        const written = [
          `${year}-${pad(month)}-${pad(day)} ${time}`,
          `${day}/${month}/${year} ${time}`,
          `${pad(day)}.${pad(month)}.${year} ${time}`,
          `${day}-${month}-${year} ${time}`,
          date.toUTCString(),
        ][way];
        expect(
          readMoment(written ?? "", { order: "day first", timeZone: "UTC", firstYear: 0 }),
        ).toBe(date.toISOString());
      }),
    );
  });
});

describe("the order of a column of dates", () => {
  test.each<[string, string[], string]>([
    ["a day over 12 in front", ["03/09/2026", "28/08/2026"], "day first"],
    ["a day over 12 behind", ["9/3/2026", "9/30/2026", "10/2/2026"], "month first"],
    ["dots", ["03.09.", "05.09.", "01.10."], "day first"],
    ["answers that come in order, days first", ["30/08", "02/09", "05/09"], "day first"],
    ["growing days of one month", ["01/09/26", "02/09/26", "05/09/26", "09/09/26"], "unsure"],
    [
      "order of time, month first",
      ["8/9/2026", "9/1/2026", "9/10/2026", "10/2/2026"],
      "month first",
    ],
    ["a single date", ["03/09/2026"], "unsure"],
    ["both ways in one column", ["28/08/2026", "8/28/2026"], "unsure"],
    ["ISO dates", ["2026-03-09", "2026-09-03"], "day first"],
    ["the same number twice", ["03/03/2026", "05/05/2026"], "day first"],
    ["nothing", [], "day first"],
  ])("%s", (_what, cells, wanted) => expect(dateOrder(cells)).toBe(wanted));
});
