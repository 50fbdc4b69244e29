import { Refused, noSuch, refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { isGuardian, isStudent } from "@amigo/core/facts/subjects";
import { randomBytes } from "node:crypto";
import { sql, type SQL } from "drizzle-orm";
import type { Fact } from "@amigo/core/facts/fact";
import type { Origin } from "@amigo/core/facts/origin";
import type { RowPlace } from "@amigo/core/sheet/sharedRows";
import { loadShared } from "../facts/rowQueries";
import { ALL_KINDS } from "@amigo/core/facts/kinds/allKinds";
import type { Personal } from "@amigo/core/facts/kinds/kind";
import type { PersonName } from "@amigo/core/sheet/splitName";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { record } from "../events/record";
import type { Actor } from "../change/carryOut";
import { openBook } from "../sandbox/openBook";
import { sweepTexts, takerOf } from "./sweepTexts";
import { t } from "../texts/t";
import { lockRounds } from "../change/roundQueries";
import {
  listAllFactsOf,
  blankFacts,
  blankPrivateName,
  removeEndedManual,
  listHeldByOthers,
  listKeptFiles,
  findKeptFile,
  removeKeptFile,
  listOtherOrigins,
  listSheets,
  blankRows,
  listRowsWith,
  forgetMails,
  forgetSearches,
  forgetSubjects,
  forgetAddress,
  type Traces,
} from "./removalQueries";
import { listAllSeasons } from "../db/houseQueries";

/**
 * Takes the personal data of somebody who left out of everything that is kept: facts of all seasons, rows and files of every
 * import, what they wrote and what was written to them, memberships, deliveries, the journal and every other text. Counts
 * stay, and so does what others have written to lists. It can't be undone.
 *
 * Refused with 409 while they still stand in the sheets.
 */
export async function forgetPerson(
  db: Database,
  { actor, person }: { actor: Actor; person: string },
): Promise<{ done: true } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const facts = await listAllFactsOf(tx, person);
    if (facts.length === 0 || !(isStudent(person) || isGuardian(person))) return noSuch("person");
    if (facts.some(({ until, current }) => until === null && current))
      return refused(409, "people/still-here", t("people.theyStillStandInThe"));
    const told = personalIn(facts);
    const { names, numbers } = told;
    const addresses = await ownAddresses(tx, person, [...new Set(told.addresses)]);
    const removed = (): string => `removed-${randomBytes(6).toString("hex")}`;
    const stand = new Map(addresses.map((address) => [address, `${removed()}@removed.invalid`]));
    const marks = new Map([
      ...stand,
      ...(await ownNumbers(tx, person, numbers)).map((number): [string, string] => [
        number,
        removed(),
      ]),
    ]);
    const whole: Traces = { names, marks, key: removed() };
    // What somebody else is called as well may tell of them: it is taken out only beside an address or number of this one.
    const alone: Traces = { ...whole, names: await ownNames(tx, person, names) };
    await forgetFiles(tx, alone);
    if (isStudent(person))
      await forgetOwnRows(
        tx,
        person,
        facts.map(({ origin }) => origin),
      );
    await forgetRows(tx, whole);
    await forgetMails(tx, person, addresses);
    await blankFacts(tx, person);
    for (const [address, instead] of stand) await forgetAddress(tx, address, instead);
    await sweepTexts(tx, alone);
    await forgetSearches(tx, alone);
    await forgetSubjects(tx, alone);
    await blankPrivateName(tx, person);
    await removeEndedManual(tx, person);
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "forget",
      sentence: () => t("people.removedThePersonalDataOf", { name: actor.name }),
    });
    for (const { id } of await listAllSeasons(tx)) await raiseVersion(tx, id, "all");
    await notify(tx, "people", "board", "rounds");
    return { done: true as const };
  });
}

/** Returns the names, addresses and numbers in facts, by which somebody is also found elsewhere. */
function personalIn(facts: readonly Pick<Fact, "kind" | "ref" | "value">[]): {
  names: PersonName[];
  addresses: string[];
  numbers: string[];
} {
  const found: ReturnType<typeof personalIn> = { names: [], addresses: [], numbers: [] };
  for (const { kind, ref, value } of facts) {
    const { personal } = ALL_KINDS[kind] as { personal?: Personal };
    if (personal === "name") found.names.push(value as PersonName);
    else if (personal === "address") found.addresses.push(ref);
    else if (personal === "number" && value !== "") found.numbers.push(value as string);
  }
  return found;
}

/** Their addresses that are nobody else's, no account's either. */
async function ownAddresses(
  tx: Queries,
  person: string,
  addresses: readonly string[],
): Promise<string[]> {
  const others = await heldByOthers(
    tx,
    addresses,
    sql`select ref as held from fact where kind = 'address' and subject <> ${person} union all select email from account`,
  );
  return addresses.filter((address) => !others.has(address.toLowerCase()));
}

/** How long a number must be to be nothing but somebody's number wherever it stands. Shorter ones are also counts, classes and days. */
const DISTINCT = { digits: 6, withLetters: 4 };

/** Their numbers that nobody else has and that can't be anything else in a text. */
async function ownNumbers(
  tx: Queries,
  person: string,
  numbers: readonly string[],
): Promise<string[]> {
  const others = await heldByOthers(
    tx,
    numbers,
    sql`select value #>> '{}' as held from fact where kind = 'number' and subject <> ${person}`,
  );
  return [...new Set(numbers)].filter(
    (number) =>
      !others.has(number.toLowerCase()) &&
      /\d/.test(number) &&
      number.length >= (/\p{L}/u.test(number) ? DISTINCT.withLetters : DISTINCT.digits),
  );
}

/** Their names that nobody else has, in any season or as an account. */
async function ownNames(
  tx: Queries,
  person: string,
  names: Traces["names"],
): Promise<Traces["names"]> {
  const whole = ({ given, family }: Traces["names"][number]): string => `${given} ${family}`;
  const others = await heldByOthers(
    tx,
    names.map(whole),
    sql`select concat(value->>'given', ' ', value->>'family') as held from fact where kind = 'name' and subject <> ${person} union all select name from account`,
  );
  return names.filter((name) => !others.has(whole(name).toLowerCase()));
}

/** Which of some texts others have too, in small letters. `held` is a query of what they have. */
async function heldByOthers(
  tx: Queries,
  texts: readonly string[],
  held: SQL,
): Promise<ReadonlySet<string>> {
  if (texts.length === 0) return new Set();
  const { rows } = await listHeldByOthers(tx, held, texts);
  return new Set(rows.map((row) => row.held));
}

/**
 * Takes away the kept files in which somebody stands, in any of their sheets. They can't be mended inside; the rows that were
 * read of them stay, without that person.
 */
async function forgetFiles(tx: Queries, traces: Traces): Promise<void> {
  const { stands } = takerOf(traces);
  const kept = await listKeptFiles(tx);
  // One at a time, for they can be large.
  for (const { id } of kept) {
    const one = await findKeptFile(tx, id);
    const book = one === undefined ? undefined : await openBook(one.file);
    // What can't be looked into any more can't be known to be without them.
    if (
      book === undefined ||
      book instanceof Refused ||
      book.sheets.some(({ rows }) => rows.some(stands))
    )
      await removeKeptFile(tx, id);
  }
}

/** Empties the rows from which a student was read, unless they are a household's and tell of others too. */
async function forgetOwnRows(
  tx: Queries,
  person: string,
  origins: readonly Origin[],
): Promise<void> {
  const sheets = await listSheets(tx);
  const shared = await loadShared(tx, "all");
  // Two imports can share one stored row, from which this student was read in one, and another in the other.
  const storedRows = (some: readonly Origin[]): Map<string, RowPlace> =>
    new Map(
      some.flatMap((origin) => {
        if (origin.from !== "row") return [];
        const { reading, row } = origin;
        const sheet = Math.max(sheets.get(reading)?.indexOf(origin.sheet) ?? 0, 0);
        const place = shared.placeOf({ reading, sheet, row });
        return [[`${place.reading} ${place.sheet} ${place.row}`, place] as const];
      }),
    );
  const rows = storedRows(origins);
  const others = await listOtherOrigins(tx, person);
  for (const key of storedRows(others.map(({ origin }) => origin)).keys()) rows.delete(key);
  await blankRows(tx, [...rows.values()]);
}

/** Takes somebody out of all rows in which an address or number of theirs stands, whoever else has their name. */
async function forgetRows(tx: Queries, traces: Traces): Promise<void> {
  if (traces.marks.size === 0) return;
  const { ofValue } = takerOf(traces);
  const marks = JSON.stringify([...traces.marks.keys()].map((mark) => mark.toLowerCase()));
  const { rows } = await listRowsWith(tx, marks);
  for (const { place, cells } of rows)
    await tx.execute(
      sql`update reading_row set cells = array(select json_array_elements_text(${JSON.stringify(ofValue(cells))}::json)) where ctid = ${place}::tid`,
    );
}
