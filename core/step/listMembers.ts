import { belongs, cohortsAround, type Reason } from "../audience/belongs";
import type { Audience } from "../audience/audience";
import type { FactIndex, Person } from "../facts/indexFacts";

/** A list to be filled: its key, its cohort and its audience. */
export interface ListToFill {
  key: string;
  cohort: string;
  audience: Audience;
  /** The list's id, by which addresses are kept on or off it; undefined for one that is not made yet. */
  id: string | undefined;
}

/** The lists of each cohort. */
export type ListsByCohort = ReadonlyMap<string, readonly ListToFill[]>;

export function listsByCohort(lists: readonly ListToFill[]): ListsByCohort {
  const by = new Map<string, ListToFill[]>();
  for (const list of lists) by.set(list.cohort, [...(by.get(list.cohort) ?? []), list]);
  return by;
}

/** One person's place on one list; `addresses` is empty for somebody who cannot be reached. */
export interface Place {
  list: ListToFill;
  reason: Reason;
  addresses: string[];
}

/** The lists that a person belongs on, and why. */
export function placesOf(person: Person, index: FactIndex, lists: ListsByCohort): Place[] {
  const places: Place[] = [];
  for (const cohort of cohortsAround(person, index)) {
    for (const list of lists.get(cohort) ?? []) {
      const reason = belongs(list.audience, cohort, person, index);
      if (reason !== undefined) places.push({ list, reason, addresses: [...person.addresses].filter((address) => keptSide(list, address, index) !== "off") });
    }
  }
  return places;
}

/** Whether an address is kept on or off a list by hand. */
export function keptSide(list: Pick<ListToFill, "id">, address: string, index: FactIndex): "on" | "off" | undefined {
  return list.id === undefined ? undefined : index.kept.get(list.id)?.get(address)?.side;
}

/** Who stands behind an address that is on a list only because it is kept there. */
export const KEPT = "kept";

/** Who stands behind each address of each list: list key to address to person ids. */
export type Members = Map<string, Map<string, Set<string>>>;

/** Everybody who belongs on the lists, by address, so that one address is on a list once. */
export function membersOf(index: FactIndex, lists: ListsByCohort): Members {
  const members: Members = new Map();
  for (const person of index.people.values()) for (const place of placesOf(person, index, lists)) for (const address of place.addresses) addMember(members, place.list.key, address, person.id);
  for (const list of new Set([...lists.values()].flat())) for (const [address, { side }] of (list.id === undefined ? undefined : index.kept.get(list.id)) ?? []) if (side === "on") addMember(members, list.key, address, KEPT);
  return members;
}

export function addMember(members: Members, list: string, address: string, person: string): boolean {
  const onList = members.get(list) ?? new Map<string, Set<string>>();
  members.set(list, onList);
  const behind = onList.get(address);
  if (behind !== undefined) {
    behind.add(person);
    return false;
  }
  onList.set(address, new Set([person]));
  return true;
}

/** Takes a person from behind an address; answers whether the address leaves the list by it. */
export function removeMember(members: Members, list: string, address: string, person: string): boolean {
  const onList = members.get(list);
  const behind = onList?.get(address);
  if (onList === undefined || behind === undefined) return false;
  behind.delete(person);
  if (behind.size > 0) return false;
  onList.delete(address);
  return true;
}
