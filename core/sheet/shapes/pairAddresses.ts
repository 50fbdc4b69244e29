import { fold } from "../../text/fold";
import { wholeName, type PersonName } from "../splitName";

/** An address as a cell has it, with the name that stands beside it there. */
export interface NamedAddress {
  address: string | undefined;
  written: string;
  beside: PersonName;
}

/** Somebody with an address, or without one. */
export interface Pair {
  name: PersonName;
  address: string | undefined;
  written: string;
}

const NOBODY: PersonName = { given: "", family: "" };
const GIVEN = 3;
const FAMILY = 1;
const INITIAL = 0.6;

/**
 * Gives the people of one cell the addresses of another: by the name beside an address, by the name in it, by what is left
 * over. One address for two people is both's, unless it names one of them.
 *
 * @returns the pairs, in the order of the people, and whether only the order tells which address is whose
 */
export function pairAddresses(
  people: readonly PersonName[],
  addresses: readonly NamedAddress[],
): { pairs: Pair[]; unsure: boolean } {
  const named = people.filter((person) => wholeName(person) !== "");
  const [first] = named;
  if (named.length < 2 || first === undefined)
    return { pairs: alone(first ?? NOBODY, addresses), unsure: false };
  if (addresses.length === 0)
    return {
      pairs: named.map((name) => ({ name, address: undefined, written: "" })),
      unsure: false,
    };
  const points = named.map((person) => addresses.map((address) => likeness(person, address)));
  const [only] = addresses;
  if (addresses.length === 1 && only !== undefined) {
    const best = Math.max(...points.map(([point = 0]) => point));
    const owners = named.filter((_, at) => (points[at]?.[0] ?? 0) === best);
    const isOne = owners.length === 1 && best >= INITIAL;
    return {
      pairs: named.map((name) =>
        !isOne || owners.includes(name)
          ? { name, address: only.address, written: only.written }
          : { name, address: undefined, written: "" },
      ),
      unsure: false,
    };
  }
  return match(named, addresses, points);
}

function match(
  people: readonly PersonName[],
  addresses: readonly NamedAddress[],
  points: readonly (readonly number[])[],
): { pairs: Pair[]; unsure: boolean } {
  const order = bestOrder(people.length, addresses.length, points);
  const pairs: Pair[] = people.map((name, at) => {
    const address = addresses[order.places[at] ?? -1];
    return { name, address: address?.address, written: address?.written ?? "" };
  });
  const used = new Set(order.places);
  addresses.forEach((address, at) => {
    if (!used.has(at))
      pairs.push({ name: address.beside, address: address.address, written: address.written });
  });
  return { pairs, unsure: !order.isPlain };
}

/** The best way to give each person one of the addresses; people and addresses in one cell are few. */
function bestOrder(
  people: number,
  addresses: number,
  points: readonly (readonly number[])[],
): { places: number[]; isPlain: boolean } {
  const few = Math.min(people, 4);
  const all: { places: number[]; points: number }[] = [];
  const place = (places: number[], sum: number): void => {
    const person = places.length;
    if (person === few) {
      all.push({ places, points: sum });
      return;
    }
    for (let at = 0; at < Math.min(addresses, 6); at++)
      if (!places.includes(at)) place([...places, at], sum + (points[person]?.[at] ?? 0));
    if (addresses < people) place([...places, -1], sum);
  };
  place([], 0);
  // Of equals the one in the order written comes first, for it was tried first.
  const sorted = [...all].sort((a, b) => b.points - a.points);
  const [best, next] = sorted;
  return {
    places: best?.places ?? [],
    isPlain: best !== undefined && (next === undefined || best.points - next.points >= INITIAL / 2),
  };
}

/** One person, or nobody who is named: the first address is theirs, the others are of whom stands beside them. */
function alone(name: PersonName, addresses: readonly NamedAddress[]): Pair[] {
  if (addresses.length === 0) return [{ name, address: undefined, written: "" }];
  return addresses.map(({ address, written, beside }, at) => ({
    name: at === 0 && wholeName(name) !== "" ? name : beside,
    address,
    written,
  }));
}

function likeness(
  { given, family }: PersonName,
  { address = "", written, beside }: NamedAddress,
): number {
  const text = address === "" ? written : address;
  // A number behind a name only tells namesakes apart.
  const box = fold(text.split("@")[0] ?? "")
    .replaceAll(" ", "")
    .replace(/\d{1,4}$/, "");
  const parts = fold(text.split("@")[0] ?? "").split(" ");
  const givens = fold(given)
    .split(" ")
    .filter((word) => word.length > 2);
  const families = fold(family)
    .split(" ")
    .filter((word) => word.length > 2);
  const byName =
    wholeName(beside) === ""
      ? 0
      : fold(wholeName(beside)).includes(fold(given)) && given !== ""
        ? 5
        : 0;
  const initial = fold(given).charAt(0);
  return (
    byName +
    (givens.some((word) => box.includes(word))
      ? GIVEN
      : initial !== "" &&
          (parts.includes(initial) || families.some((word) => box === `${initial}${word}`))
        ? INITIAL
        : 0) +
    (families.some((word) => box.includes(word)) ? FAMILY : 0)
  );
}
