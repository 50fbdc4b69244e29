import { withoutInvisible } from "../text/tidy";

/** How often each domain stands in the house's own addresses. */
export type KnownDomains = ReadonlyMap<string, number>;

/**
 * Learns the domains that a house uses from its written addresses. Only plain, well-formed
 * addresses teach, so that a slip repeated in a few cells never becomes a domain to believe in.
 */
export function learnDomains(written: Iterable<string>): KnownDomains {
  const known = new Map<string, number>();
  for (const text of written) {
    const match = /^[^\s@,;<>]+@([^\s@,;<>]+\.[\p{L}-]{2,})$/u.exec(
      withoutInvisible(text).trim().toLowerCase(),
    );
    if (match?.[1] !== undefined) known.set(match[1], (known.get(match[1]) ?? 0) + 1);
  }
  return known;
}
