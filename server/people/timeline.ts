import { and, desc, eq, inArray, or, sql } from "drizzle-orm";
import type { Fact } from "@amigo/core/facts/fact";
import { nameOf } from "@amigo/core/facts/indexFacts";
import { wholeName } from "@amigo/core/sheet/splitName";
import type { PersonPage } from "@amigo/contract/people";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { fact, list, membership } from "../db/schema";
import { factColumns } from "../facts/queries";
import { listsOf, peopleOf } from "../membership/scope";
import { describeOrigins } from "../readings/origins";

type Line = PersonPage["timeline"][number];

const MOST = 200;

/** What became known of somebody and when, what ended, and on which lists, of those that the asker sees, their addresses came and went; newest first. */
export async function timelineOf(db: Queries, caller: Caller, seasonId: number, person: string): Promise<Line[]> {
  const within = peopleOf(caller, seasonId);
  const rows = await db.select({ ...factColumns, from: fact.validFrom, until: fact.validUntil, fromRound: fact.fromRound, untilRound: fact.untilRound }).from(fact)
    .where(and(eq(fact.seasonId, seasonId), or(eq(fact.subject, person), and(eq(fact.kind, "tie"), eq(fact.ref, person))), within === undefined ? undefined : sql`(${fact.kind} <> 'tie' or (${fact.subject} in ${within} and ${fact.ref} in ${within}))`)).orderBy(desc(fact.validFrom)).limit(MOST);
  const describe = await describeOrigins(db, rows.map(({ origin }) => origin));
  const names = await namesOf(db, seasonId, rows as Fact[], person);
  const addresses = [...new Set(rows.flatMap(({ kind, ref }) => (kind === "address" ? [ref] : [])))];
  const memberships = addresses.length === 0 ? [] : await db.select({ address: membership.address, title: list.title, from: membership.validFrom, until: membership.validUntil, fromRound: membership.fromRound, untilRound: membership.untilRound }).from(membership).innerJoin(list, eq(list.id, membership.listId)).where(and(inArray(membership.address, addresses), listsOf(caller))).orderBy(desc(membership.validFrom)).limit(MOST);
  const nowhere = { text: "", reading: null, source: null };
  const lines: Line[] = [
    ...rows.flatMap(({ from, until, fromRound, untilRound, ...own }): Line[] => {
      const words = wordsFor(own as Fact, person, names);
      if (words === undefined) return [];
      const begun: Line = { at: from.toISOString(), what: words.begins, sign: "+", where: describe(own.origin), round: fromRound };
      return until === null ? [begun] : [begun, { at: until.toISOString(), what: words.ends, sign: "−", where: nowhere, round: untilRound }];
    }),
    ...memberships.flatMap(({ address, title, from, until, fromRound, untilRound }): Line[] => [
      { at: from.toISOString(), what: `${address} joined ${title}`, sign: "+", where: nowhere, round: fromRound },
      ...(until === null ? [] : [{ at: until.toISOString(), what: `${address} left ${title}`, sign: "−" as const, where: nowhere, round: untilRound }]),
    ]),
  ];
  return lines.sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0)).slice(0, MOST);
}

function wordsFor(own: Fact, person: string, names: ReadonlyMap<string, string>): { begins: string; ends: string } | undefined {
  switch (own.kind) {
    case "student": return { begins: "joined as a student", ends: "left" };
    case "guardian": return { begins: "became known as a guardian", ends: "no longer a guardian of anybody here" };
    case "name": return { begins: `is called ${wholeName(own.value)}`, ends: `was called ${wholeName(own.value)}` };
    case "number":
    case "level":
    case "site": return { begins: `${own.kind} ${own.value}`, ends: `${own.kind} no longer ${own.value}` };
    case "address": return { begins: `is reached at ${own.ref}`, ends: `no longer reached at ${own.ref}` };
    case "enrolment": return { begins: `in ${names.get(own.ref) ?? own.ref}`, ends: `no longer in ${names.get(own.ref) ?? own.ref}` };
    case "tie": {
      const other = names.get(own.subject === person ? own.ref : own.subject) ?? "somebody";
      const is = own.value === "" ? "guardian" : own.value.toLowerCase();
      return own.subject === person ? { begins: `${is} of ${other}`, ends: `no longer ${is} of ${other}` } : { begins: `${other} is a ${is}`, ends: `${other} is no longer a ${is}` };
    }
    default: return undefined;
  }
}

async function namesOf(db: Queries, seasonId: number, rows: readonly Fact[], person: string): Promise<Map<string, string>> {
  const ids = [...new Set(rows.flatMap(({ kind, subject, ref }) => (kind === "tie" ? [subject === person ? ref : subject] : kind === "enrolment" ? [ref] : [])))];
  const found = ids.length === 0 ? [] : await db.select(factColumns).from(fact).where(and(eq(fact.seasonId, seasonId), inArray(fact.kind, ["name", "cohort"]), inArray(fact.subject, ids))).orderBy(fact.validFrom) as Fact[];
  return new Map(found.map((own) => [own.subject, own.kind === "name" ? nameOf(own.value) : own.kind === "cohort" ? own.value.name : ""]));
}
