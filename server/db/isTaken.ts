/** Whether the database refused something because a name of which there is one at most is taken already (SQLSTATE 23505). */
export function isTaken(failure: unknown): boolean {
  const cause = failure instanceof Error && failure.cause !== undefined ? failure.cause : failure;
  return typeof cause === "object" && cause !== null && "code" in cause && cause.code === "23505";
}
