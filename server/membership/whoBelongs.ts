import { and, eq, inArray, or, sql } from "drizzle-orm";
import { parseAudience } from "@amigo/core/audience/parseAudience";
import { belongs } from "@amigo/core/audience/belongs";
import type { Fact } from "@amigo/core/facts/fact";
import { factKey } from "@amigo/core/facts/fact";
import { indexFacts, nameOf } from "@amigo/core/facts/indexFacts";
import { families } from "@amigo/core/identity/families";
import { joined } from "@amigo/core/text/sentence";
import type { Queries } from "../db/connect";
import { fact } from "../db/schema";
import { factColumns, heldAt } from "../facts/queries";
import { describeFacts } from "../readings/origins";

/** A person who belongs on a list, with the reason and where it was read. */
export interface Belonging {
  person: string;
  name: string;
  because: string;
  where: string;
  addresses: string[];
  /** Tells families apart. */
  family: string;
}

/**
 * Everybody who belongs on a recipe's list of a cohort, with the reason down to source, sheet, row and cell.
 *
 * @param instant as of when; undefined for now
 */
export async function whoBelongs(db: Queries, found: { seasonId: number; cohortKey: string; audience: string }, instant?: Date): Promise<Belonging[]> {
  const parsed = parseAudience(found.audience);
  if (!parsed.ok) return [];
  const facts = await factsAround(db, found.seasonId, found.cohortKey, instant);
  const index = indexFacts(new Map(facts.map((own) => [factKey(own), own])));
  const origins = await describeFacts(db, facts);
  const family = families(index);
  const belonging: Belonging[] = [];
  for (const person of index.people.values()) {
    const reason = belongs(parsed.audience, found.cohortKey, person, index);
    if (reason === undefined) continue;
    const evidence = reason.as === "student" ? factKey({ subject: person.id, kind: "enrolment", ref: found.cohortKey }) : factKey({ subject: person.id, kind: "tie", ref: reason.students[0] ?? "" });
    const because = reason.as === "student" ? `student of ${index.cohorts.get(found.cohortKey)?.name ?? "the class"}` : `guardian of ${joined(reason.students.map((id) => nameOf(index.people.get(id))))}`;
    belonging.push({ person: person.id, name: nameOf(person), because, where: origins.get(evidence) ?? "", addresses: [...person.addresses], family: family.get(person.id) ?? person.id });
  }
  return belonging;
}

/** The facts about the students of a cohort and about everybody tied to them. */
async function factsAround(db: Queries, seasonId: number, cohortKey: string, instant: Date | undefined): Promise<Fact[]> {
  const now = and(eq(fact.seasonId, seasonId), heldAt(instant));
  const students = db.select({ subject: fact.subject }).from(fact).where(and(now, eq(fact.kind, "enrolment"), eq(fact.ref, cohortKey)));
  const guardians = db.select({ subject: fact.subject }).from(fact).where(and(now, eq(fact.kind, "tie"), inArray(fact.ref, students)));
  return await db.select(factColumns).from(fact).where(and(now, or(inArray(fact.subject, students), inArray(fact.subject, guardians), and(eq(fact.subject, cohortKey), eq(fact.kind, "cohort"))))).orderBy(sql`${fact.subject}`) as Fact[];
}
