import { anchors, anchorsOf } from "../audience/anchors";
import { belongs, type Reason } from "../audience/belongs";
import type { Audience } from "../audience/audience";
import { listKeyParts } from "../lists/listKey";
import type { FactIndex, Person } from "../facts/factIndex";

/** A list to be filled: its key and whom it is for. On a closed one nothing changes. */
export interface ListToFill {
  key: string;
  audience: Audience;
  open: boolean;
}

/** Lists by their keys, and by the anchors through which their people are found. */
export class ListBook {
  readonly byKey = new Map<string, ListToFill>();
  readonly #byAnchor = new Map<string, Set<ListToFill>>();
  readonly #byPlace = new Map<string, Set<string>>();
  /** How often a list was found by a name; once there was one, names are looked at. */
  #names = 0;

  constructor(lists: Iterable<ListToFill>) {
    for (const list of lists) this.set(list);
  }

  set(list: ListToFill): void {
    this.remove(list.key);
    this.byKey.set(list.key, list);
    const place = placeOf(list.key);
    const there = this.#byPlace.get(place);
    if (there === undefined) this.#byPlace.set(place, new Set([list.key]));
    else there.add(list.key);
    for (const anchor of anchors(list.audience)) {
      if (anchor.startsWith("name:")) this.#names++;
      const foundAnchor = this.#byAnchor.get(anchor);
      if (foundAnchor === undefined) this.#byAnchor.set(anchor, new Set([list]));
      else foundAnchor.add(list);
    }
  }

  remove(key: string): void {
    const old = this.byKey.get(key);
    if (old === undefined) return;
    this.byKey.delete(key);
    this.#byPlace.get(placeOf(key))?.delete(key);
    for (const anchor of anchors(old.audience)) this.#byAnchor.get(anchor)?.delete(old);
  }

  /** The keys of the lists that recipes make of a class, level or site. */
  ofPlace(of: string): ReadonlySet<string> {
    return this.#byPlace.get(of) ?? NONE;
  }

  /** The lists on which a person could be. */
  around(person: Person, index: FactIndex): Set<ListToFill> {
    const found = new Set<ListToFill>();
    for (const anchor of anchorsOf(person, index, this.#names > 0))
      for (const list of this.#byAnchor.get(anchor) ?? []) found.add(list);
    return found;
  }
}

const NONE: ReadonlySet<string> = new Set();

/** What a list is of, by its key; nothing for a single list. */
function placeOf(key: string): string {
  return listKeyParts(key)?.of ?? "";
}

/** One person's place on one list; `addresses` is empty for somebody who cannot be reached. */
export interface Place {
  list: ListToFill;
  reason: Reason;
  addresses: string[];
}

/** The lists that a person belongs on, and why. */
export function placesOf(person: Person, index: FactIndex, lists: ListBook): Place[] {
  const places: Place[] = [];
  for (const list of lists.around(person, index)) {
    const reason = belongs(list.audience, person, index);
    if (reason !== undefined)
      places.push({ list, reason, addresses: addressesOn(list, person, index) });
  }
  return places;
}

/** The addresses of a person that go on a list: all but those that are kept off it. */
export function addressesOn(
  list: Pick<ListToFill, "key">,
  person: Person,
  index: FactIndex,
): string[] {
  return [...person.addresses].filter((address) => keptSide(list, address, index) !== "off");
}

/** Whether an address is kept on or off a list by hand. */
export function keptSide(
  list: Pick<ListToFill, "key">,
  address: string,
  index: FactIndex,
): "on" | "off" | undefined {
  return index.kept.get(list.key)?.get(address)?.side;
}

/** Who stands behind an address that is on a list only because it is kept there. */
export const KEPT = "kept";

/** Who stands behind each address of each list: list key to address to person ids. */
export type Members = Map<string, Map<string, Set<string>>>;

/** Everybody who belongs on the lists, by address, so that one address is on a list once. */
export function membersOf(index: FactIndex, lists: ListBook): Members {
  const members: Members = new Map();
  for (const person of index.people.values())
    for (const place of placesOf(person, index, lists))
      for (const address of place.addresses) addMember(members, place.list.key, address, person.id);
  for (const key of lists.byKey.keys())
    for (const [address, { side }] of index.kept.get(key) ?? [])
      if (side === "on") addMember(members, key, address, KEPT);
  return members;
}

export function addMember(
  members: Members,
  list: string,
  address: string,
  person: string,
): boolean {
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

/** Takes a person from behind an address; returns whether the address leaves the list by it. */
export function removeMember(
  members: Members,
  list: string,
  address: string,
  person: string,
): boolean {
  const onList = members.get(list);
  const behind = onList?.get(address);
  if (onList === undefined || behind === undefined) return false;
  behind.delete(person);
  if (behind.size > 0) return false;
  onList.delete(address);
  return true;
}
