import { inOrder } from "@amigo/language/inOrder";
import type { getPersonHits } from "@amigo/contract/private";
import { type Person, nameOf } from "@amigo/core/facts/factIndex";
import { workingAddresses } from "@amigo/core/reach/reach";
import { fold } from "@amigo/core/text/fold";
import { searchTerms } from "@amigo/core/text/searchTerms";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { addressesFor } from "../membership/addressesFor";
import { loadStopped } from "../membership/addressQueries";
import { knownPeople } from "../membership/knownPeople";
import { detailOf } from "./detailOf";

const HITS = 12;

/** How many people are found at most where several are looked for at once. */
const MANY_HITS = 200;

/** Returns people whom the asker may write to, by any part of their names or by number; several at once on lines of their own. */
export async function findPeople(
  { db }: Context,
  { query, caller }: Request<typeof getPersonHits>,
): Promise<Answer<typeof getPersonHits>> {
  const terms = searchTerms(query.q);
  if (terms.length === 0) return [];
  const known = await knownPeople(db, caller);
  const stopped = await loadStopped(db);
  const hits = new Set<Person>();
  for (const person of known.people.values()) {
    const pieces = fold(`${nameOf(person)} ${person.number}`).split(" ");
    const fits = (words: readonly string[]): boolean =>
      words.every((word) =>
        word.includes("@")
          ? person.addresses.has(word)
          : pieces.some((piece) => piece.startsWith(word)),
      );
    if (terms.some(fits)) hits.add(person);
  }
  return [...hits]
    .sort((a, b) => inOrder(nameOf(a), nameOf(b)))
    .slice(0, terms.length === 1 ? HITS : MANY_HITS)
    .map((person) => {
      const addresses = addressesFor(person, known, "guardians");
      return {
        id: person.id,
        name: nameOf(person),
        detail: detailOf(person, known),
        reached: workingAddresses(addresses, stopped).length > 0,
        child: person.role === "student",
        addresses,
      };
    });
}
