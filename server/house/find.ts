import { isStudent } from "@amigo/core/facts/subjects";
import { sql, type SQL } from "drizzle-orm";
import type { z } from "zod";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { fold } from "@amigo/core/text/fold";
import type { Found } from "@amigo/contract/house";
import { callerMay, type Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { peopleOf } from "../membership/scope";
import { t } from "../texts/t";
import { listsOf } from "../membership/queries";
import { listFindableLists, findNames, listDetails } from "./findQueries";
import { listSourceNames } from "../rounds/queries";

type Hit = z.output<typeof Found>;

const MOST_LISTS = 8;
const MOST_PEOPLE = 6;

/** Returns the lists, people and sources that somebody may know and whose names have words that start as the text's do. */
export async function find(db: Queries, caller: Caller, text: string): Promise<Hit[]> {
  const words = fold(text)
    .split(" ")
    .filter((word) => word !== "");
  if (words.length === 0) return [];
  const matches = (name: string): boolean => {
    const pieces = fold(name).split(" ");
    return words.every((word) => pieces.some((piece) => piece.startsWith(word)));
  };
  const lists = await findLists(db, caller, matches);
  if (!callerMay(caller, "see people")) return lists;
  const [people, sources] = await Promise.all([
    findPeople(db, caller, words, matches),
    callerMay(caller, "see sources") ? findSources(db, matches) : [],
  ]);
  return [...lists, ...people, ...sources];
}

async function findLists(
  db: Queries,
  caller: Caller,
  matches: (name: string) => boolean,
): Promise<Hit[]> {
  const lists = await listFindableLists(db, caller);
  return lists
    .filter(({ name, title, short }) => matches(`${title} ${name} ${short}`))
    .slice(0, MOST_LISTS)
    .map(({ id, name, title }) => ({ kind: "list", id, title, detail: name, to: `/lists/${id}` }));
}

async function findSources(db: Queries, matches: (name: string) => boolean): Promise<Hit[]> {
  const sources = await listSourceNames(db);
  return sources
    .filter(({ name }) => matches(name))
    .map(({ id, name }) => ({
      kind: "source",
      id,
      title: name,
      detail: "source",
      to: `/sources/${id}`,
    }));
}

async function findPeople(
  db: Queries,
  caller: Caller,
  words: readonly string[],
  matches: (name: string) => boolean,
): Promise<Hit[]> {
  const within = peopleOf(caller, sql`(select id from season where current)`);
  const named = await findNames(db, within, words);
  const found = named.filter((row) => matches(`${row.given} ${row.family}`)).slice(0, MOST_PEOPLE);
  const details = await detailsOf(
    db,
    found.map(({ subject }) => subject),
    caller,
    within,
  );
  return found.map(({ subject, given, family }) => ({
    kind: "person",
    id: subject,
    title: `${given} ${family}`.trim(),
    detail: details.get(subject) ?? (isStudent(subject) ? "student" : "guardian"),
    to: `/people/${subject}`,
  }));
}

/** What tells people of one name apart: their class, or the children whose guardian they are, and the lists that they are on. */
async function detailsOf(
  db: Queries,
  subjects: readonly string[],
  caller: Caller,
  within: SQL | undefined,
): Promise<Map<string, string>> {
  if (subjects.length === 0) return new Map();
  const known = within === undefined ? sql`true` : sql`student.id in ${within}`;
  const mine = listsOf(caller);
  const { rows } = await listDetails(db, subjects, known, mine);
  return new Map(
    rows.map(({ subject, children, classes, lists }) => [
      subject,
      [
        isStudent(subject)
          ? "student"
          : children.length === 0
            ? "guardian"
            : t("house.guardianOf", { children: each(children) }),
        say(each(classes)),
        lists.length > 1
          ? t("house.andMore", { first: lists[0], more: lists.length - 1 })
          : (lists[0] ?? ""),
      ]
        .filter((part) => part !== "")
        .join(" · "),
    ]),
  );
}
