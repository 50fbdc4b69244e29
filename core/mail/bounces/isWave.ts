/** How many of some copies have failed for good within an hour. */
export interface Failures {
  failed: number;
  /** How many copies there are, however they fared. */
  tried: number;
}

/** The fewest failures, and the smallest share, that are more likely a mail server's mistake than wrong addresses. */
const LIMITS = { domain: { few: 5, share: 1 / 2 }, mail: { few: 10, share: 1 / 4 } } as const;

/**
 * Returns whether too many copies failed at once for their addresses to be stopped without asking a coordinator.
 *
 * @param scope copies of one mail to one domain, or all copies of a mail to a list
 */
export function isWave(scope: keyof typeof LIMITS, { failed, tried }: Failures): boolean {
  const { few, share } = LIMITS[scope];
  return failed >= few && failed >= tried * share;
}
