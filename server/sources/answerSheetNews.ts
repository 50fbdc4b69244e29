import { sharedIndex } from "@amigo/core/facts/indexFacts";
import type { FactIndex, Person } from "@amigo/core/facts/factIndex";
import { deriveFacts } from "@amigo/core/identity/deriveFacts";
import { sortWords } from "@amigo/core/mail/bounces/sortOf";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { RowNews } from "@amigo/core/sheet/answers/answerCells";
import { failingCells } from "@amigo/core/sheet/failingCells";
import { readAll, type WholeReading } from "@amigo/core/sheet/readAll";
import type { Queries } from "../db/connect";
import { loadByHand } from "../facts/queries";
import { standingFacts } from "../facts/standing";
import {
  correctionsOf,
  currentRecords,
  latestReadings,
  readingContext,
} from "../facts/readingQueries";
import type { TableInSheet } from "@amigo/core/sheet/table";
import type { reading } from "../db/schema/sources";
import { loadHouse } from "../db/houseQueries";
import { listCorrectionsAmong } from "./correctionQueries";
import {
  listAllTroubles,
  listListsByAddress,
  listWaitingCauses,
  listQuestionSides,
} from "./answerSheetQueries";
import type { RowRecord } from "@amigo/core/sheet/rowRecord";

export const placeOf = (sheet: string, row: number): string => `${row} ${sheet}`;

/** What there is to say of each row that is read, by its sheet and row. */
export async function newsByRow(
  db: Queries,
  last: { id: string; sourceId: string; seasonId: number; plan: typeof reading.$inferSelect.plan },
  tables: readonly TableInSheet[],
): Promise<Map<string, RowNews>> {
  const settings = await loadHouse(db);
  const corrections = await correctionsOf(db, last.sourceId);
  const whole = readAll(tables, corrections, await readingContext(db, last.sourceId));
  const stand = await standingFacts(db, last.seasonId);
  const sources = await currentRecords(db, await latestReadings(db, last.seasonId), {
    id: last.id,
    records: whole.records,
  });
  const { students } = deriveFacts(sources, stand, {
    studentAddress: settings?.studentAddress ?? "",
    ...(await loadByHand(db, last.seasonId)),
  });
  const known: RowsKnown = {
    index: sharedIndex(stand),
    listsAt: await listsByAddress(db, last.seasonId, settings?.timeZone ?? "UTC"),
    waiting: await waitingCauses(db, last.seasonId),
    asked: await questionsByRow(db, last),
    faults: await faultsByRow(db, whole),
    troubles: new Map((await listAllTroubles(db)).map((row) => [row.address, row])),
  };
  const guardians = guardiansByStudent(known.index);
  const failing = failingCells(tables, whole.records, (address) => known.troubles.has(address));
  const news = new Map<string, RowNews>();
  for (const { record, student } of rowsOf(whole.records, students)) {
    news.set(placeOf(record.sheet, record.row), {
      ...newsOf(record, student, guardians.get(student ?? "") ?? [], known),
      failing: failing
        .filter(
          (cell) => cell.row === record.row && tables[cell.sheet]?.sheet.name === record.sheet,
        )
        .map(({ column, address }) => {
          const trouble = known.troubles.get(address);
          return {
            column,
            address,
            why: trouble === undefined ? "" : sortWords(trouble.sort),
          };
        }),
    });
  }
  for (const { sheet, row } of whole.faults)
    if (!news.has(placeOf(sheet, row)))
      news.set(placeOf(sheet, row), {
        known: true,
        lists: [],
        waiting: [],
        questions: known.asked.get(placeOf(sheet, row)) ?? [],
        faults: known.faults.get(placeOf(sheet, row)) ?? [],
        failing: [],
        unreachable: false,
      });
  return news;
}

/** Returns the rows of a sheet that say something, each with its student: a guardian who has a row of their own is in one more. */
function rowsOf(
  records: readonly RowRecord[],
  students: ReadonlyMap<RowRecord, string>,
): { record: RowRecord; student: string | undefined }[] {
  return records.flatMap((record) => {
    const student = students.get(record);
    const others = record.guardians.flatMap((guardian) =>
      guardian.row === undefined
        ? []
        : [{ record: { ...record, row: guardian.row, guardians: [guardian] }, student }],
    );
    return [{ record, student }, ...others];
  });
}

/** What the news of a sheet's rows are made of. */
interface RowsKnown {
  index: FactIndex;
  listsAt: Awaited<ReturnType<typeof listsByAddress>>;
  waiting: Awaited<ReturnType<typeof waitingCauses>>;
  asked: Awaited<ReturnType<typeof questionsByRow>>;
  faults: Awaited<ReturnType<typeof faultsByRow>>;
  troubles: ReadonlyMap<string, Awaited<ReturnType<typeof listAllTroubles>>[number]>;
}

/** Returns what there is to say of one row: about its student and those of the guardians whose addresses it names. */
function newsOf(
  record: RowRecord,
  student: string | undefined,
  guardians: readonly Person[],
  { index, listsAt, waiting, asked, faults }: RowsKnown,
): Omit<RowNews, "failing"> {
  const place = placeOf(record.sheet, record.row);
  const person = student === undefined ? undefined : index.people.get(student);
  const addresses = [
    ...new Set(
      [
        ...(person?.addresses ?? []),
        record.address,
        ...record.guardians.map(({ address }) => address),
      ].filter((address) => address !== undefined),
    ),
  ];
  const named = guardians.filter((guardian) =>
    addresses.some((address) => guardian.addresses.has(address)),
  );
  const subjects = [...(student === undefined ? [] : [student]), ...named.map(({ id }) => id)];
  return {
    known: person !== undefined,
    lists: listsOf(addresses, listsAt, person?.cohorts ?? new Set()),
    waiting: subjects.flatMap((subject) => waiting.get(subject) ?? []),
    questions: asked.get(place) ?? [],
    faults: faults.get(place) ?? [],
    unreachable:
      record.guardians.length > 0 &&
      person !== undefined &&
      guardians.every((guardian) => guardian.addresses.size === 0),
  };
}

function guardiansByStudent({ people }: FactIndex): Map<string, Person[]> {
  const found = new Map<string, Person[]>();
  for (const person of people.values())
    for (const student of person.ties.keys()) {
      const guardians = found.get(student);
      if (guardians === undefined) found.set(student, [person]);
      else guardians.push(person);
    }
  return found;
}

interface OnList {
  title: string;
  cohort: string | null;
  since: string;
}

/** The open lists of a season by the addresses on them. */
async function listsByAddress(
  db: Queries,
  seasonId: number,
  timeZone: string,
): Promise<Map<string, OnList[]>> {
  const rows = await listListsByAddress(db, seasonId);
  const found = new Map<string, OnList[]>();
  for (const { address, from, ...row } of rows)
    found.set(address, [...(found.get(address) ?? []), { ...row, since: dayIn(timeZone, from) }]);
  return found;
}

/** The lists of a row's addresses: of those that are for a class, only the student's own, so that a sibling's are not told here. */
function listsOf(
  addresses: readonly string[],
  at: ReadonlyMap<string, OnList[]>,
  cohorts: ReadonlySet<string>,
): RowNews["lists"] {
  const known = new Map<string, string>();
  for (const { title, cohort: of, since } of addresses.flatMap(
    (address) => at.get(address) ?? [],
  )) {
    if (of !== null && !cohorts.has(of)) continue;
    const before = known.get(title);
    if (before === undefined || since < before) known.set(title, since);
  }
  return [...known].map(([title, since]) => ({ title, since }));
}

async function waitingCauses(
  db: Queries,
  seasonId: number,
): Promise<Map<string, RowNews["waiting"][number][]>> {
  const rows = await listWaitingCauses(db, seasonId);
  const found = new Map<string, RowNews["waiting"][number][]>();
  for (const { subject, decision, ...row } of rows)
    found.set(subject, [...(found.get(subject) ?? []), { ...row, held: decision === "held" }]);
  return found;
}

async function questionsByRow(
  db: Queries,
  { id, seasonId }: { id: string; seasonId: number },
): Promise<Map<string, string[]>> {
  const found = new Map<string, string[]>();
  for (const { about, sides } of await listQuestionSides(db, seasonId)) {
    for (const { where } of sides) {
      if (where?.from === "row" && where.reading === id) {
        const place = placeOf(where.sheet, where.row);
        found.set(place, [...new Set([...(found.get(place) ?? []), about])]);
      }
    }
  }
  return found;
}

/** Faults that somebody has to look at, or that a correction has put right and the sheet could. */
async function faultsByRow(
  db: Queries,
  { faults }: WholeReading,
): Promise<Map<string, RowNews["faults"][number][]>> {
  const ids = [...new Set(faults.flatMap(({ correction: id }) => id ?? []))];
  const mended = new Map(
    ids.length === 0 ? [] : (await listCorrectionsAmong(db, ids)).map(({ id, read }) => [id, read]),
  );
  const found = new Map<string, RowNews["faults"][number][]>();
  for (const {
    sheet,
    row,
    column,
    written,
    sentence,
    proposal,
    answer,
    correction: id,
  } of faults) {
    if (answer === "clean") continue;
    const place = placeOf(sheet, row);
    found.set(place, [
      ...(found.get(place) ?? []),
      {
        column,
        written,
        sentence,
        proposal,
        mended: id === undefined ? undefined : mended.get(id),
      },
    ]);
  }
  return found;
}
