import { candidates } from "../audience/anchors";
import { belongs } from "../audience/belongs";
import type { FactIndex } from "../facts/factIndex";
import { isOfGone } from "./goneLists";
import {
  addMember,
  addressesOn,
  KEPT,
  ListBook,
  membersOf,
  type ListToFill,
  type Members,
} from "./listMembers";

/** From how many people looked at, as a multiple of all of them, going through everybody once is less work. */
const WORTH_IT = 1;

/**
 * Returns the members of lists, each worked out when it is asked for the first time, for most changes touch few lists. Those who are
 * always on a list of a class that is gone are its members. Where many lists are asked for, everybody is looked at once.
 *
 * @param index stays as it is
 */
export function membersAsNeeded(lists: ReadonlyMap<string, ListToFill>, index: FactIndex): Members {
  return new MembersAsNeeded(lists, index);
}

class MembersAsNeeded extends Map<string, Map<string, Set<string>>> {
  /** How many people have been looked at, list by list. */
  #looked = 0;
  #everybody: Members | undefined;
  readonly #lists: ReadonlyMap<string, ListToFill>;
  readonly #index: FactIndex;

  constructor(lists: ReadonlyMap<string, ListToFill>, index: FactIndex) {
    super();
    this.#lists = lists;
    this.#index = index;
  }

  override get(key: string): Map<string, Set<string>> | undefined {
    if (super.has(key)) return super.get(key);
    const found = this.#find(key);
    if (found !== undefined) super.set(key, found);
    return found;
  }

  #find(key: string): Map<string, Set<string>> | undefined {
    const list = this.#lists.get(key);
    const found: Members = new Map();
    if (list === undefined) {
      if (!isOfGone(key, this.#index)) return undefined;
    } else if (this.#looked > this.#index.people.size * WORTH_IT) {
      this.#everybody ??= membersOf(this.#index, new ListBook(this.#lists.values()));
      return this.#everybody.get(key);
    } else
      for (const person of candidates(list.audience, this.#index)) {
        this.#looked++;
        if (belongs(list.audience, person, this.#index) === undefined) continue;
        for (const address of addressesOn(list, person, this.#index))
          addMember(found, key, address, person.id);
      }
    for (const [address, { side }] of this.#index.kept.get(key) ?? [])
      if (side === "on") addMember(found, key, address, KEPT);
    return found.get(key);
  }
}
