import { say } from "@amigo/language/say";
import { type Audience, partsOf } from "@amigo/core/audience/audience";
import { becauseOf } from "@amigo/core/audience/becauseOf";
import type { Reason } from "@amigo/core/audience/belongs";
import { whoBelongs as find } from "@amigo/core/audience/whoBelongs";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { indexFacts, addToIndex } from "@amigo/core/facts/indexFacts";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/factIndex";
import { families } from "@amigo/core/identity/families";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { wantedList } from "@amigo/core/lists/wantedLists";
import type { Queries } from "../db/connect";
import { houseIndex, indexAtHand, standingIndex } from "../facts/standing";
import { describeFacts } from "../facts/describeOrigins";
import { listFactsAt, listFactsAtPlaces } from "./addressQueries";
import { anchors } from "@amigo/core/audience/anchors";
import { fold } from "@amigo/core/text/fold";
import { and, eq, inArray, type SQL } from "drizzle-orm";
import { union } from "drizzle-orm/pg-core";
import { fact } from "../db/schema/people";
import { heldAt, factColumns } from "../facts/queries";

/** A person who belongs on a list, with the reason and where it was read. */
export interface Belonging {
  person: string;
  name: string;
  /** `guardian`, `student` or `staff`. */
  role: Person["role"];
  because: string;
  where: string;
  addresses: string[];
  /** Tells families apart. */
  family: string;
}

/**
 * Everybody who belongs on a list, with the reason down to source, sheet, row and cell.
 *
 * @param instant as of when; undefined for now
 */
export async function whoBelongs(
  db: Queries,
  found: { seasonId: number; key: string },
  instant?: Date,
): Promise<Belonging[]> {
  const known = instant === undefined ? await indexAtHand(db, found.seasonId) : undefined;
  const house = known ?? (await houseIndex(db, found.seasonId, { list: found.key, instant }));
  const list =
    known === undefined ? wantedList(house, found.key) : wantedLists(known).get(found.key);
  if (list === undefined) return [];
  const people = known ?? (await peopleFor(db, found.seasonId, list.audience, house, instant));
  return describe(db, found.seasonId, list.audience, people, instant);
}

/** Everybody who belongs to an audience now, described. */
async function describe(
  db: Queries,
  seasonId: number,
  audience: Audience,
  index: FactIndex,
  instant: Date | undefined,
): Promise<Belonging[]> {
  const found = find(audience, index);
  const keys = found.flatMap(({ person, reason }) => evidenceOf(person.id, reason));
  const evidence = await loadEvidence(db, seasonId, keys, instant);
  const origins = await describeFacts(db, evidence);
  const family = families(index);
  return found.map(({ person, reason }) => ({
    person: person.id,
    name: nameOf(person),
    role: person.role,
    because: say(becauseOf(reason, index)),
    where:
      evidenceOf(person.id, reason).map((factPlace) => origins.get(factKey(factPlace)) ?? "")[0] ??
      "",
    addresses: [...person.addresses],
    family: family.get(person.id),
  }));
}

type FactPlace = Pick<Fact, "subject" | "kind" | "ref">;

/** The fact by which somebody belongs. */
export function evidenceOf(person: string, { as, students, cohort }: Reason): FactPlace[] {
  if (as === "student")
    return [
      cohort === ""
        ? { subject: person, kind: "student", ref: "" }
        : { subject: person, kind: "enrolment", ref: cohort },
    ];
  if (as === "guardian") return [{ subject: person, kind: "tie", ref: students[0] ?? "" }];
  return [];
}

async function loadEvidence(
  db: Queries,
  seasonId: number,
  places: readonly FactPlace[],
  instant: Date | undefined,
): Promise<Fact[]> {
  if (places.length === 0) return [];
  const wanted = JSON.stringify(
    places.map(({ subject, kind, ref }) => ({ s: subject, k: kind, r: ref })),
  );
  return (await listFactsAtPlaces(db, seasonId, instant, wanted)) as Fact[];
}

export async function indexAt(db: Queries, seasonId: number, instant: Date): Promise<FactIndex> {
  const rows = (await listFactsAt(db, seasonId, instant)) as Fact[];
  return indexFacts(new Map(rows.map((row) => [factKey(row), row])));
}

/** The people who can have to do with an audience: those of its classes, names and the staff; else everybody. */
export async function peopleFor(
  db: Queries,
  seasonId: number,
  audience: Audience,
  house: FactIndex,
  instant: Date | undefined,
): Promise<FactIndex> {
  const wanted = new Set(
    [...partsOf(audience)].flatMap((part) =>
      part.op === "group" || part.op === "person" ? anchors(part) : [],
    ),
  );
  const sites = new Set([...house.cohorts.values()].map(({ site }) => `site:${fold(site)}`));
  const cohorts = [...wanted].filter((key) => house.cohorts.has(key));
  const others = [...wanted].filter(
    (key) =>
      !house.cohorts.has(key) &&
      !(/^(class|team|committee|site):/.test(key) && cohorts.length > 0 && !sites.has(key)),
  );
  const names = others.flatMap((key) =>
    key.startsWith("name:") ? [key.slice("name:".length)] : [],
  );
  const isNarrow = others.every(
    (key) =>
      key.startsWith("name:") || key === "every staff" || /^(class|team|committee):/.test(key),
  );
  if (!isNarrow)
    return instant === undefined ? standingIndex(db, seasonId) : indexAt(db, seasonId, instant);
  const now = and(eq(fact.seasonId, seasonId), heldAt(instant));
  const subjectsOf = (...of: readonly SQL[]) =>
    db
      .select({ subject: fact.subject })
      .from(fact)
      .where(and(now, ...of));
  // Made for each place where it is asked, for joining two questions changes the first of them.
  const students = () => {
    const enrolled = subjectsOf(eq(fact.kind, "enrolment"), inArray(fact.ref, [...cohorts, ""]));
    return names.length === 0
      ? enrolled
      : union(enrolled, subjectsOf(eq(fact.kind, "name"), inArray(fact.search, names)));
  };
  const guardians = subjectsOf(eq(fact.kind, "tie"), inArray(fact.ref, students()));
  const staff = subjectsOf(eq(fact.kind, "staff"));
  // One set of people: an OR of three questions would be put to every fact of the house.
  const rows = (await db
    .select(factColumns)
    .from(fact)
    .where(and(now, inArray(fact.subject, union(students(), guardians, staff))))) as Fact[];
  for (const row of rows) addToIndex(house, row);
  return house;
}
