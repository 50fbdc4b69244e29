import { asciiDomain } from "./domainName";
import { withoutInvisible } from "../text/tidy";

/** How often each domain stands in the house's own addresses; `OF_LISTS` for the domain of its lists. */
export type KnownDomains = ReadonlyMap<string, number>;

/** Stands for the domain in which lists live: no person has an address there. */
export const OF_LISTS = -1;

/**
 * Learns the domains that a house uses from its written addresses. Only plain, well-formed
 * addresses teach, so that a slip repeated in a few cells never becomes a domain to believe in.
 *
 * @param listDomain the domain in which the house's lists live; empty where it isn't known
 */
export function learnDomains(written: Iterable<string>, listDomain = ""): KnownDomains {
  const known = new Map<string, number>();
  for (const text of written) {
    const match = /^[^\s@,;<>]+@([^\s@,;<>]+\.[\p{L}-]{2,})$/u.exec(
      withoutInvisible(text).trim().toLowerCase(),
    );
    if (match?.[1] !== undefined) {
      const domain = asciiDomain(match[1]);
      known.set(domain, (known.get(domain) ?? 0) + 1);
    }
  }
  if (listDomain !== "") known.set(listDomain, OF_LISTS);
  return known;
}
