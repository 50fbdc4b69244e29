import type { getCause } from "@amigo/contract/causes";
import type { Fact } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import { nameOf } from "@amigo/core/facts/factIndex";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { existingLists } from "../membership/existingLists";
import { t } from "../texts/t";
import { evidenceOf } from "./evidence";
import { plannedNames } from "./plannedNames";
import { findSeasonOf } from "./queries";
import { listFactsAbout, listNameFacts } from "./evidenceQueries";
import { findCause } from "./causeQueries";

/** Returns one cause with its evidence and its list changes. */
export async function showCause(
  { db }: Context,
  { params }: Request<typeof getCause>,
): Promise<Answer<typeof getCause>> {
  const found = await findCause(db, params.number, params.position);
  const season = await findSeasonOf(db, params.number);
  if (found === undefined || season === undefined) throw notFound("cause");
  const stand = await factsAbout(db, season.seasonId, found.subject);
  const lists = await existingLists(db, season.seasonId);
  const planned = await plannedNames(db, { seasonId: season.seasonId, round: params.number });
  const people = await namesOf(
    db,
    found.changes.map(({ person }) => person),
    [...found.adds, ...found.removes],
  );
  return {
    position: found.position,
    key: found.key,
    kind: found.kind,
    group: found.group,
    unreachable: found.unreachable,
    sentence: found.sentence,
    about: aboutSubject(found, stand),
    history: found.history,
    decision: found.decision,
    evidence: await evidenceOf(db, found, stand),
    changes: found.changes.map(({ list, kind, address, instead, person }) => ({
      list: lists.get(list)?.name ?? planned.get(list) ?? list,
      listId: lists.get(list)?.id ?? null,
      kind,
      address,
      instead: instead ?? null,
      person: people.get(person) ?? "",
    })),
  };
}

/** The facts that stand about one person, their ties included. */
async function factsAbout(db: Queries, seasonId: number, subject: string): Promise<Fact[]> {
  const rows = await listFactsAbout(db, seasonId, subject);
  return (rows as Fact[]).sort((a, b) => (a.kind === "name" ? -1 : b.kind === "name" ? 1 : 0));
}

/** One line about whom a cause is about: the number and level of a student, the students of a guardian. */
function aboutSubject(
  found: { subject: string; adds: readonly Fact[]; removes: readonly Fact[] },
  stand: readonly Fact[],
): string {
  const index = indexFacts(
    new Map(
      [...stand, ...found.removes, ...found.adds].map((fact, position) => [String(position), fact]),
    ),
  );
  const person = index.people.get(found.subject);
  if (person === undefined) return "";
  if (person.role !== "student") return [...person.addresses].join(", ");
  return [
    t("rounds.student", { number: person.number }).trim(),
    person.level === "" ? "" : t("shared.level", { level: person.level }),
  ]
    .filter((part) => part !== "")
    .join(", ");
}

async function namesOf(
  db: Queries,
  ids: readonly string[],
  fact: readonly Fact[],
): Promise<Map<string, string>> {
  const names = new Map<string, string>();
  const learn = (rows: readonly Pick<Fact, "subject" | "kind" | "value">[]): void => {
    for (const { subject, kind, value } of rows)
      if (kind === "name" && typeof value === "object" && "given" in value)
        names.set(subject, nameOf(value));
  };
  const wanted = [...new Set(ids)];
  if (wanted.length > 0) learn((await listNameFacts(db, wanted)) as Fact[]);
  learn(fact);
  return names;
}
