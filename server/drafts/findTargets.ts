import { inOrder } from "@amigo/language/inOrder";
import type { getTargets, TargetHit } from "@amigo/contract/drafts";
import { readAddress } from "@amigo/core/address/readAddress";
import { nameOf, type Person, type FactIndex } from "@amigo/core/facts/factIndex";
import { whenRenewed } from "@amigo/core/facts/indexFacts";
import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { fold } from "@amigo/core/text/fold";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { recipientsFor, addressesFor } from "../membership/addressesFor";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { listPrivateTargets } from "./queries";
import { countMembers, listTargets } from "../membership/targetQueries";

const HITS = 12;

/** Returns whom what is typed into To could mean: people, lists, private lists, an address. */
export async function findTargets(
  { db }: Context,
  { query, caller }: Request<typeof getTargets>,
): Promise<Answer<typeof getTargets>> {
  const typed = query.q.trim().toLowerCase();
  const words = fold(query.q)
    .split(" ")
    .filter((word) => word !== "");
  if (typed === "") return [];
  const startsAll = (pieces: readonly string[]): boolean =>
    words.length > 0 && words.every((word) => pieces.some((piece) => piece.startsWith(word)));
  const matches = (text: string): boolean => startsAll(fold(text).split(" "));
  const lists = await listTargets(db, caller);
  const isNamed = (row: { short: string; own: string | null }): boolean =>
    row.own === typed || row.short.split(",").some((name) => name.trim().toLowerCase() === typed);
  const listsFound = lists
    .filter(
      (row) =>
        matches(`${row.title} ${row.name} ${row.short} ${row.own ?? ""}`) ||
        row.name.startsWith(typed.split("@")[0] ?? typed) ||
        isNamed(row),
    )
    .sort((one, other) => Number(isNamed(other)) - Number(isNamed(one)))
    .slice(0, HITS);
  const members = await countMembers(
    db,
    listsFound.map(({ id }) => id),
  );
  const listHits = listsFound.map(({ id, name, title }): TargetHit => ({
    kind: "list",
    id,
    name: title,
    detail: `${name}, ${members.get(id) ?? 0}`,
    many: true,
  }));
  const privates = (await listPrivateTargets(db, caller.id))
    .filter(({ name }) => matches(name))
    .map(({ id, name }): TargetHit => ({
      kind: "private",
      id,
      name,
      detail: t("drafts.aPrivateListOfYours"),
      many: true,
    }));
  const known = await knownPeople(db, caller);
  const people = everybodyIn(known)
    .filter(
      ({ person, words: theirs }) =>
        startsAll(theirs) || (typed.length >= 3 && hasAddressThatStarts(person, typed)),
    )
    .map(({ person }) => person)
    .sort((one, other) => inOrder(nameOf(one), nameOf(other)))
    .slice(0, HITS)
    .map((person): TargetHit => ({
      kind: "person",
      id: person.id,
      name: nameOf(person),
      ...hitDetail(person, known),
      many: false,
    }));
  const read = readAddress(typed, new Map());
  const address =
    read.answer === "clean" && !people.some(({ detail }) => detail === read.address)
      ? [
          {
            kind: "address" as const,
            id: read.address,
            name: read.address,
            detail: t("drafts.thisAddress"),
            many: false,
          },
        ]
      : [];
  return [...listHits, ...privates.slice(0, 5), ...people, ...address].slice(0, 20);
}

/** Somebody, and the words by which they are found. */
interface Findable {
  person: Person;
  words: readonly string[];
}

/** Everybody of an index, for as long as they stand as they do: they are gone through at every letter that is typed. */
const EVERYBODY = new WeakMap<FactIndex, readonly Findable[]>();

whenRenewed((below, index, difference) => {
  const known = EVERYBODY.get(below);
  const isOfPeople = [...difference.added, ...difference.removed].some(
    (fact) => kindOf(fact).about === "person",
  );
  if (known !== undefined && !isOfPeople) EVERYBODY.set(index, known);
});

function everybodyIn(index: FactIndex): readonly Findable[] {
  let people = EVERYBODY.get(index);
  if (people === undefined) {
    people = [...index.people.values()].map((person) => ({ person, words: wordsOf(person) }));
    EVERYBODY.set(index, people);
  }
  return people;
}

function hasAddressThatStarts({ addresses }: Person, typed: string): boolean {
  for (const address of addresses) if (address.startsWith(typed)) return true;
  return false;
}

/** The words of people as they are known, so that a change of somebody else needs none of them again. */
const WORDS = new WeakMap<Person, readonly string[]>();

function wordsOf(person: Person): readonly string[] {
  let words = WORDS.get(person);
  if (words === undefined) {
    words = fold(`${nameOf(person)} ${person.number}`).split(" ");
    WORDS.set(person, words);
  }
  return words;
}

/** What stands beside a person who was found: the addresses; for a child, whom of the family mail goes to. */
function hitDetail(person: Person, known: FactIndex): Pick<TargetHit, "detail" | "whom"> {
  const words = (addresses: readonly string[]): string =>
    addresses.length === 0 ? t("shared.noAddress") : say(each(addresses));
  if (person.role !== "student") return { detail: words([...person.addresses]) };
  const guardians = recipientsFor(person, known, "guardians");
  return {
    whom: "guardians",
    detail:
      guardians.length === 0
        ? t("shared.noGuardianIsKnown")
        : t("drafts.to", {
            nameOf: each(guardians.map(nameOf)),
            person: words(addressesFor(person, known, "guardians")),
          }),
  };
}
