import { sql } from "drizzle-orm";
import { each } from "@amigo/language/message";
import type { Fact } from "@amigo/core/facts/fact";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/indexFacts";
import type { Reach, Trouble } from "@amigo/contract/mail";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { peopleOf } from "../membership/scope";
import { listCounts } from "../people/queries";
import { describeOrigins } from "../facts/describeOrigins";
import { t } from "../texts/t";
import { type addressTrouble } from "../db/schema/deliveries";
import { loadCurrentSeason } from "../db/houseQueries";
import { listTroubles, listIds, countReachByWeek, listAddressFacts } from "./queries";

/** Who can be reached of those whom the asker sees: a student is, where a guardian of theirs has an address that works. */
export async function reachOf(db: Queries, caller: Caller): Promise<Reach> {
  const current = await loadCurrentSeason(db);
  const seasonId = current?.id ?? 0;
  const index = await standingIndex(db, seasonId);
  const within = await seenIds(db, caller, seasonId);
  const troubles = await listTroubles(db);
  const stopped = new Set(
    troubles.filter(({ state }) => state === "stopped").map(({ address }) => address),
  );
  const students = [...index.people.values()].filter(
    ({ role, id }) => role === "student" && (within === undefined || within.has(id)),
  );
  const classes = new Map<string, Reach["classes"][number]>();
  let reached = 0;
  for (const student of students) {
    const why = whyUnreached(student, index, stopped);
    if (why === undefined) reached++;
    for (const key of student.cohorts) {
      const cohort = index.cohorts.get(key);
      if (cohort?.kind !== "class") continue;
      const row = classes.get(key) ?? {
        name: cohort.name,
        site: cohort.site,
        students: 0,
        reached: 0,
        missing: [],
      };
      classes.set(key, row);
      row.students++;
      if (why === undefined) row.reached++;
      else row.missing.push({ id: student.id, name: nameOf(student), why });
    }
  }
  return {
    students: students.length,
    reached,
    classes: [...classes.values()].sort(
      (one, other) =>
        one.site.localeCompare(other.site, "en") || one.name.localeCompare(other.name, "en"),
    ),
    weeks: await weeksOf(db, seasonId, within),
    troubles: await describeTroubles(db, seasonId, index, troubles, within),
  };
}

function whyUnreached(
  student: Person,
  index: FactIndex,
  stopped: ReadonlySet<string>,
): string | undefined {
  const guardians = [...student.ties.keys()].flatMap((id) => index.people.get(id) ?? []);
  if (guardians.length === 0) return t("shared.noGuardianIsKnown");
  const addresses = guardians.flatMap((guardian) => [...guardian.addresses]);
  if (addresses.length === 0)
    return t("reach.noAddress", {
      guardians: each(guardians.map((guardian) => nameOf(guardian))),
      count: guardians.length,
    });
  return addresses.every((address) => stopped.has(address))
    ? t("reach.mailToComesBack", { addresses: each(addresses) })
    : undefined;
}

async function seenIds(
  db: Queries,
  caller: Caller,
  seasonId: number,
): Promise<Set<string> | undefined> {
  const within = peopleOf(caller, seasonId);
  if (within === undefined) return undefined;
  const { rows } = await listIds(db, within);
  return new Set(rows.map(({ id }) => id));
}

/** How many students there were at the end of each of the last weeks, and for how many a guardian's address was known. */
async function weeksOf(
  db: Queries,
  seasonId: number,
  within: ReadonlySet<string> | undefined,
): Promise<Reach["weeks"]> {
  const only =
    within === undefined
      ? sql``
      : sql`and student.subject in (select json_array_elements_text(${JSON.stringify([...within])}::json))`;
  const { rows } = await countReachByWeek(db, seasonId, only);
  return rows;
}

async function describeTroubles(
  db: Queries,
  seasonId: number,
  index: FactIndex,
  rows: readonly (typeof addressTrouble.$inferSelect)[],
  within: ReadonlySet<string> | undefined,
): Promise<Trouble[]> {
  if (rows.length === 0) return [];
  const addresses = rows.map(({ address }) => address);
  const facts = (await listAddressFacts(db, seasonId, addresses)) as Fact[];
  const describe = await describeOrigins(
    db,
    facts.map(({ origin }) => origin),
  );
  const counts = await listCounts(db, addresses);
  return rows.flatMap(({ address, state, sort, words, lastAt }) => {
    const foundFacts = facts.filter(
      ({ ref, subject }) => ref === address && (within === undefined || within.has(subject)),
    );
    if (within !== undefined && foundFacts.length === 0) return [];
    const [first] = foundFacts;
    const at = first === undefined ? undefined : describe(first.origin);
    const people = foundFacts.flatMap(({ subject }) => {
      const person = index.people.get(subject);
      return person === undefined
        ? []
        : [
            {
              id: subject,
              name: nameOf(person),
              detail:
                person.role === "guardian"
                  ? t("shared.guardianOf", {
                      students: each(
                        [...person.ties.keys()].map((id) => nameOf(index.people.get(id))),
                      ),
                    })
                  : person.role,
            },
          ];
    });
    return [
      {
        address,
        state,
        sort,
        words,
        since: lastAt.toISOString(),
        lists: counts.get(address) ?? 0,
        people,
        where: at?.text ?? "",
        source: at?.source ?? null,
      },
    ];
  });
}
