import { faultsOfName, LONGEST_NAME, type NameFault } from "./nameFault";
import { fillPattern, readPattern, tidyName, type NameParts, type ShortForms } from "./pattern";

/** A list that wants a name. */
export interface NameWish {
  key: string;
  pattern: string;
  parts: NameParts;
}

/** What names must keep to in a house. */
export interface NamingRules {
  shortForms: ShortForms;
  /** What the house finds pleasant to type at most. */
  longest: number;
  /** Names that the house keeps for itself, beside those of RFC 2142. */
  reserved: ReadonlySet<string>;
  /** Which list has a name, or had it within the last two seasons; undefined for a free one. */
  heldBy(name: string): { key: string; now: boolean } | undefined;
}

/** A list with the name that its pattern makes, what is wrong with it, and a name that can be used. */
export interface NamedList {
  key: string;
  name: string;
  faults: NameFault[];
  /** Valid, free and given to no other list; the name itself where nothing is wrong with it. */
  proposal: string;
}

/**
 * Names many lists at once by their patterns. No two proposals are alike, and the order of the wishes changes nothing.
 * A pattern that can't be read makes an empty name.
 */
export function nameLists(wishes: readonly NameWish[], rules: NamingRules): NamedList[] {
  const made = new Map(wishes.map((wish) => [wish.key, make(wish, rules.shortForms)]));
  const counts = new Map<string, number>();
  for (const name of made.values()) counts.set(name, (counts.get(name) ?? 0) + 1);
  const held = (name: string, key: string): NameFault | undefined => {
    const other = rules.heldBy(name);
    return other === undefined || other.key === key ? undefined : other.now ? "taken" : "recent";
  };
  const found = new Map<string, NamedList>();
  const used = new Set<string>();
  const sorted = [...wishes].sort((a, b) => (a.key < b.key ? -1 : 1));
  for (const { key } of sorted) {
    const name = made.get(key) ?? "";
    const other = held(name, key);
    const faults = [
      ...faultsOfName(name, rules),
      ...(name !== "" && (counts.get(name) ?? 0) > 1 ? ["ambiguous" as const] : []),
      ...(other === undefined ? [] : [other]),
    ];
    if (faults.length === 0) used.add(name);
    found.set(key, { key, name, faults, proposal: name });
  }
  for (const wish of sorted) {
    const made = found.get(wish.key);
    if (made === undefined || made.faults.length === 0) continue;
    for (const candidate of waysOut(wish, made, rules)) {
      if (
        used.has(candidate) ||
        held(candidate, wish.key) !== undefined ||
        faultsOfName(candidate, { ...rules, longest: LONGEST_NAME }).length > 0
      )
        continue;
      made.proposal = candidate;
      used.add(candidate);
      break;
    }
  }
  return wishes.flatMap(({ key }) => found.get(key) ?? []);
}

function make({ pattern, parts }: NameWish, shortForms: ShortForms): string {
  const read = readPattern(pattern);
  return read.ok ? fillPattern(read.pieces, parts, shortForms) : "";
}

/** Names to try in turn: shorter ones for what is too long, telling ones for what is ambiguous, then numbers without end. */
function* waysOut(
  { pattern, parts }: NameWish,
  { name, faults }: NamedList,
  { shortForms, longest }: NamingRules,
): Generator<string> {
  const as = (modifier: string): string =>
    make(
      {
        key: "",
        pattern: pattern.replace(
          /\{(class|team|committee|level|list)(:[^}]*)?\}/g,
          `{$1:${modifier}}`,
        ),
        parts,
      },
      shortForms,
    );
  if (faults.includes("long") || faults.includes("too-long"))
    for (const modifier of ["first 8", "first 5", "initials"]) {
      const shorter = as(modifier);
      if (shorter.length <= longest) yield shorter;
    }
  if (faults.includes("ambiguous")) {
    const telling = as("squashed");
    if (telling.length <= longest) yield telling;
  }
  // Only the house's own pleasure stands against it: nothing shorter is free, so it stays.
  if (faults.every((fault) => fault === "long")) yield name;
  const base = name === "" ? tidyName(parts.of) || "list" : name;
  if (faults.includes("reserved")) yield `${base}-list`;
  const cut = base.slice(0, LONGEST_NAME - 6).replace(/[.-]+$/, "") || "list";
  for (let turn = 2; ; turn++) yield `${cut}-${turn}`;
}
