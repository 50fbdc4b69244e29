import { dateOrder } from "../dates/dateOrder";
import { hasTime, readMoment, type DateOrder } from "../dates/readMoment";
import { fold } from "../text/fold";
import { columnOf, type FixtureColumn, FIXTURE_COLUMNS } from "./fixtureColumns";
import { readTimes } from "./readTimes";
import type { When } from "./when";

/** One date of a fixture list. */
export interface Fixture {
  /** The row of the sheet, counted from 1. */
  row: number;
  /** What it is known by when the list is read again: team and title, and which of several alike it is. */
  key: string;
  title: string;
  place: string;
  text: string;
  /** The team or class as it is written; empty where the list has none. */
  team: string;
  /** The two who meet, where the list names both; one of them is the team. */
  sides: string[];
  when: When;
}

/** A row that is no date, with why: its date or its time can't be read. */
export interface FixtureFault {
  row: number;
  fault: "date" | "time";
  cell: string;
}

export type FixturesRead =
  | {
      ok: true;
      fixtures: Fixture[];
      faults: FixtureFault[];
      /** Whether days or months come first couldn't be told, and days were taken. */
      isUnsure: boolean;
    }
  /** No row of the sheet names its columns, a column with dates among them. */
  | { ok: false; fault: "no header" };

/** What the dates are read by. */
export interface FixtureSetting {
  timeZone: string;
  /** The first year of the season, in which a date without a year lies. */
  firstYear: number;
}

/** How far down the row with the titles may stand, and how long a date without an end takes, in minutes. */
const HEADER_WITHIN = 25;
const USUAL_LENGTH = 60;
const MOST = 2_000;

/**
 * Reads a fixture list: the row that names its columns, then a date in each row. Rows without a date, as headings between months are, are
 * passed over; a date that can't be read is told.
 *
 * @param rows the cells of a sheet, as their reader would see them
 */
export function readFixtures(
  rows: readonly (readonly string[])[],
  setting: FixtureSetting,
): FixturesRead {
  const header = rows.slice(0, HEADER_WITHIN).findIndex(isHeader);
  if (header < 0) return { ok: false, fault: "no header" };
  const columns = columnsIn(rows[header] ?? []);
  const body = rows.slice(header + 1, header + 1 + MOST);
  const cellsOf = (name: FixtureColumn): string[] =>
    body.map((row) => row[columns.get(name) ?? -1] ?? "");
  const told = dateOrder(cellsOf("date"));
  const order: DateOrder = told === "month first" ? "month first" : "day first";
  const fixtures: Fixture[] = [];
  const faults: FixtureFault[] = [];
  const counted = new Map<string, number>();
  body.forEach((row, index) => {
    const of = (name: FixtureColumn): string => (row[columns.get(name) ?? -1] ?? "").trim();
    const read = fixtureIn(of, order, setting);
    if (read === undefined) return;
    const at = header + 2 + index;
    if ("fault" in read) {
      faults.push({ row: at, ...read });
      return;
    }
    const name = fold(`${read.team} ${read.title}`);
    const nth = (counted.get(name) ?? 0) + 1;
    counted.set(name, nth);
    fixtures.push({ row: at, key: `${name} ${nth}`, ...read });
  });
  return { ok: true, fixtures, faults, isUnsure: told === "unsure" };
}

/** Whether a row names columns: dates, and something of what happens then. */
function isHeader(row: readonly string[]): boolean {
  const columns = columnsIn(row);
  return columns.has("date") && columns.size >= 2;
}

function columnsIn(row: readonly string[]): Map<FixtureColumn, number> {
  const found = new Map<FixtureColumn, number>();
  row.forEach((cell, index) => {
    const column = columnOf(cell);
    if (column !== undefined && !found.has(column)) found.set(column, index);
  });
  return found;
}

function fixtureIn(
  of: (name: FixtureColumn) => string,
  order: DateOrder,
  { timeZone, firstYear }: FixtureSetting,
): Omit<Fixture, "row" | "key"> | Pick<FixtureFault, "fault" | "cell"> | undefined {
  const written = of("date");
  const others = FIXTURE_COLUMNS.filter((name) => name !== "date" && of(name) !== "");
  // A heading, a blank row, or a remark below the list.
  if (written === "" || (others.length === 0 && !/\d/.test(written))) return undefined;
  // By the clocks of Greenwich, so that the day is the one that is written.
  const moment = readMoment(written, { order, timeZone: "UTC", firstYear });
  if (moment === undefined)
    return others.length === 0 ? undefined : { fault: "date", cell: written };
  const day = moment.slice(0, 10);
  const timed = of("time") === "" && hasTime(written, order) ? moment.slice(11, 16) : of("time");
  const times = readTimes(timed, of("end"));
  if (times === undefined) return { fault: "time", cell: timed };
  const sides = [of("home"), of("away")].filter((side) => side !== "");
  return {
    title: of("title") || sides.join(" – ") || of("team"),
    place: of("place"),
    text: of("note"),
    team: of("team"),
    sides,
    when: whenOn(day, times, timeZone),
  };
}

function whenOn(day: string, times: readonly string[], zone: string): When {
  const [from, until] = times;
  if (from === undefined) return { allDay: true, from: day, until: day };
  const end = until === undefined || until < from ? later(from, USUAL_LENGTH) : until;
  return { allDay: false, from: `${day}T${from}`, until: `${day}T${end}`, zone };
}

/** A time of day some minutes later, on the same day at the latest. */
function later(time: string, minutes: number): string {
  const [hours = 0, mins = 0] = time.split(":").map(Number);
  const all = Math.min(hours * 60 + mins + minutes, 23 * 60 + 59);
  return `${String(Math.floor(all / 60)).padStart(2, "0")}:${String(all % 60).padStart(2, "0")}`;
}
