/** Whether a failure, or what caused it, has one of these codes of PostgreSQL (SQLSTATE). */
export function hasCode(failure: unknown, codes: ReadonlySet<string>): boolean {
  for (let at = failure; at instanceof Error; at = at.cause)
    if (codes.has(String((at as NodeJS.ErrnoException).code))) return true;
  return false;
}
