import { emptyGone } from "./goneLists";
import { formatAudience } from "../audience/formatAudience";
import { partsOf } from "../audience/audience";
import { whoBelongs } from "../audience/whoBelongs";
import { factKey, type Fact, type Facts } from "../facts/fact";
import { addToIndex, indexOver, removeFromIndex, sharedIndex } from "../facts/indexFacts";
import type { FactIndex } from "../facts/factIndex";
import { listKey } from "../lists/listKey";
import type { ListPoint } from "../lists/listPoint";
import { wantedLists } from "../lists/sharedWanted";
import { wantedAt, wantedList, wantedOf } from "../lists/wantedLists";
import type { Cause } from "./cause";
import type { Change } from "./change";
import {
  addMember,
  addressesOn,
  KEPT,
  keptSide,
  ListBook,
  placesOf,
  removeMember,
  type ListToFill,
  type Members,
} from "./listMembers";
import { membersAsNeeded } from "./membersAsNeeded";
import { whoIsTouched } from "./whoIsTouched";

/** The causes of a round with the changes of each, in the order in which they are counted. */
export interface RoundPlan {
  changes: Map<string, Change[]>;
  /** People, cohorts and recipes once all causes are accepted. */
  index: FactIndex;
}

/**
 * Works out what each cause does to each list that recipes and people want. Causes are counted one after another, so
 * that an address with two reasons leaves with the second of them and joins with the first, and the sum of all
 * changes is just the difference between before and after. A list that is closed keeps whom it had; a class that is gone takes
 * off its lists whoever isn't always on them, also those of whom a held cause says that they stay in it.
 *
 * @param causes what is accepted, in the order in which it is to be counted
 * @param held   what is held: what it would do after all of the others
 * @param halfway is told the people once what is accepted is done, before what is held changes them further
 */
export function planRound(
  stand: Facts,
  causes: readonly Cause[],
  held: readonly Cause[] = [],
  halfway: (index: FactIndex) => void = () => undefined,
): RoundPlan {
  const standing = sharedIndex(stand);
  const wanted = wantedLists(standing);
  const index = indexOver(standing);
  const book = new ListBook(wanted.values());
  const members = membersAsNeeded(wanted, standing);
  const changes = new Map<string, Change[]>();
  /** The facts that causes have brought so far; what stood before is in `stand`. */
  const brought = new Map<string, Fact>();
  const gone = new Set<string>();
  const people = whoIsTouched(index);
  const count = (cause: Cause): void => {
    const touched = people.by(cause);
    const kept = keptTouched(cause);
    const before = placesOn(touched, kept, index, book);
    for (const fact of cause.removes) {
      const key = factKey(fact);
      brought.delete(key);
      gone.add(key);
      removeFromIndex(index, fact);
    }
    for (const fact of cause.adds) {
      const key = factKey(fact);
      const old = brought.get(key) ?? (gone.has(key) ? undefined : stand.get(key));
      if (old !== undefined) removeOld(index, old);
      brought.set(key, fact);
      addToIndex(index, fact);
    }
    people.renew(touched);
    const others = renewLists(cause, index, book);
    for (const key of others) replaceBefore(before, key, members);
    const after = placesOn(touched, kept, index, book);
    for (const key of others)
      for (const [place, presence] of presenceOn(book.byKey.get(key), index))
        after.set(place, presence);
    changes.set(
      cause.key,
      compare(before, after, members).filter(({ list }) => book.byKey.get(list)?.open === true),
    );
  };
  for (const cause of causes) count(cause);
  for (const cause of causes)
    changes.get(cause.key)?.push(...emptyGone(cause, index, book, members));
  halfway(index);
  for (const cause of held) count(cause);
  return { changes, index };
}

/** The lists on or off which a cause keeps addresses. */
function keptTouched(cause: Cause): { key: string; address: string }[] {
  return [...cause.adds, ...cause.removes].flatMap((fact) =>
    fact.kind === "kept" ? [{ key: fact.subject, address: fact.ref }] : [],
  );
}

/** A presence is undone before a new value comes; a role is only overwritten, since ties hang on it. */
function removeOld(index: FactIndex, old: Fact): void {
  if (
    old.kind !== "student" &&
    old.kind !== "guardian" &&
    old.kind !== "staff" &&
    old.kind !== "tie"
  )
    removeFromIndex(index, old);
}

/** The points of a list by which there is one at all, and by which people come onto it. */
const FILLING: ReadonlySet<ListPoint> = new Set(["title", "audience", "state"]);

/**
 * Takes into the book what a cause makes of the lists themselves, and returns the keys of those that are to be filled
 * again: made, opened, or of another audience. What nothing wants any more goes out of the book without a change.
 */
function renewLists(cause: Cause, index: FactIndex, book: ListBook): Set<string> {
  const facts = [...cause.adds, ...cause.removes];
  const anew = new Set<string>();
  const renew = (list: ListToFill): void => {
    const old = book.byKey.get(list.key);
    if (
      old === undefined ||
      !old.open ||
      formatAudience(old.audience) !== formatAudience(list.audience)
    )
      anew.add(list.key);
    book.set(list);
  };
  if (facts.some(({ kind }) => kind === "recipe")) {
    const wanted = wantedLists(index);
    for (const key of [...book.byKey.keys()]) if (!wanted.has(key)) book.remove(key);
    for (const list of wanted.values()) renew(list);
  } else if (facts.some(({ kind }) => kind === "list")) {
    // Most points of a list change nobody on it; a thousand names must not look at every list a thousand times.
    for (const key of new Set(
      facts.flatMap((fact) =>
        fact.kind === "list" && FILLING.has(fact.ref) ? [fact.subject] : [],
      ),
    )) {
      const list = wantedList(index, key);
      if (list === undefined) book.remove(key);
      else renew(list);
    }
    if (facts.some((fact) => fact.kind === "list" && fact.ref === "leads"))
      for (const [key, { audience }] of book.byKey)
        if ([...partsOf(audience)].some((part) => part.op === "group" && part.who === "leads"))
          anew.add(key);
  } else renewCohorts(cause, index, book, renew);
  return anew;
}

/** Takes into the book what a cause makes of the lists of classes, sites and levels. */
function renewCohorts(
  cause: Cause,
  index: FactIndex,
  book: ListBook,
  renew: (list: ListToFill) => void,
): void {
  for (const { kind, subject } of [...cause.adds, ...cause.removes]) {
    if (kind !== "cohort") continue;
    const found = wantedOf(index, subject);
    if (index.cohorts.has(subject))
      for (const number of index.recipes.keys())
        if (!found.some(({ recipe }) => recipe === number)) book.remove(listKey(number, subject));
    for (const list of found) renew(list);
  }
  for (const { each, name } of placesMade(cause))
    for (const list of wantedAt(index, each, name)) if (!book.byKey.has(list.key)) renew(list);
}

/** The levels and sites that a cause may make, for which a recipe may have a list each. */
function placesMade(cause: Cause) {
  return cause.adds.flatMap((fact): { each: "level" | "site"; name: string }[] =>
    fact.kind === "level"
      ? [{ each: "level", name: fact.value }]
      : fact.kind === "cohort"
        ? [{ each: "site", name: fact.value.site }]
        : [],
  );
}

type Presence = Map<string, { list: string; address: string; person: string }>;

function placesOn(
  people: ReadonlySet<string>,
  kept: readonly { key: string; address: string }[],
  index: FactIndex,
  book: ListBook,
): Presence {
  const found: Presence = new Map();
  for (const { key, address } of kept)
    if (book.byKey.has(key) && keptSide({ key }, address, index) === "on")
      addPresence(found, key, address, KEPT);
  for (const id of people) {
    const person = index.people.get(id);
    if (person === undefined) continue;
    for (const { list, addresses } of placesOf(person, index, book))
      for (const address of addresses) addPresence(found, list.key, address, id);
  }
  return found;
}

function addPresence(found: Presence, list: string, address: string, person: string): void {
  found.set(`${list}|${address}|${person}`, { list, address, person });
}

/** Everybody on one list, as its audience and those kept on it have it. */
function presenceOn(list: ListToFill | undefined, index: FactIndex): Presence {
  const found: Presence = new Map();
  if (list === undefined) return found;
  for (const { person } of whoBelongs(list.audience, index))
    for (const address of addressesOn(list, person, index))
      addPresence(found, list.key, address, person.id);
  for (const [address, { side }] of index.kept.get(list.key) ?? [])
    if (side === "on") addPresence(found, list.key, address, KEPT);
  return found;
}

/** What was on a list before, as it has been counted so far. */
function replaceBefore(before: Presence, list: string, members: Members): void {
  for (const [address, behind] of members.get(list) ?? [])
    for (const person of behind) addPresence(before, list, address, person);
}

function compare(before: Presence, after: Presence, members: Members): Change[] {
  const joins: Change[] = [];
  const left = new Map<string, Change>();
  const leftByPerson = new Map<string, Change[]>();
  for (const [key, { list, address, person }] of before) {
    if (after.has(key) || !removeMember(members, list, address, person)) continue;
    const leave: Change = { list, kind: "leaves", address, instead: undefined, person };
    left.set(`${list}|${address}`, leave);
    const foundPerson = leftByPerson.get(`${list}|${person}`);
    if (foundPerson === undefined) leftByPerson.set(`${list}|${person}`, [leave]);
    else foundPerson.push(leave);
  }
  for (const [key, { list, address, person }] of after) {
    if (!before.has(key) && addMember(members, list, address, person))
      joins.push({ list, kind: "joins", address, instead: undefined, person });
  }
  const changes: Change[] = [];
  for (const join of joins) {
    if (left.delete(`${join.list}|${join.address}`)) continue;
    const twin = leftByPerson
      .get(`${join.list}|${join.person}`)
      ?.find(({ list, address }) => left.has(`${list}|${address}`));
    if (twin !== undefined) left.delete(`${twin.list}|${twin.address}`);
    changes.push(twin === undefined ? join : { ...join, kind: "replaced", instead: twin.address });
  }
  return [...changes, ...left.values()].sort((a, b) =>
    a.list < b.list ? -1 : a.list > b.list ? 1 : a.address < b.address ? -1 : 1,
  );
}
