import { eq } from "drizzle-orm";
import { counted } from "@amigo/core/text/sentence";
import type { Queries } from "../db/connect";
import { cause, round, source } from "../db/schema";
import { stepInside } from "./bringInStep";

/**
 * Carries out by itself what sources that may do so have brought, where no guard stands. What comes from other
 * sources as well, or is held, waits for a person.
 *
 * @returns what came of it, in a sentence
 */
export async function stepByItself(tx: Queries, name: string): Promise<string> {
  const [open] = await tx
    .select({ number: round.number, version: round.version, guards: round.guards })
    .from(round)
    .where(eq(round.state, "open"));
  if (open === undefined) return "nothing changes";
  const [guard] = open.guards;
  if (guard !== undefined)
    return `a safety check stops round ${open.number}: ${guard.about} ${guard.sentence}`;
  const own = new Set(
    (await tx.select({ id: source.id }).from(source).where(eq(source.mode, "itself"))).map(
      ({ id }) => id,
    ),
  );
  const causes = await tx
    .select({ position: cause.position, sources: cause.sources, decision: cause.decision })
    .from(cause)
    .where(eq(cause.round, open.number));
  const only = causes
    .filter(
      ({ sources, decision }) => decision === "accepted" && sources.every((id) => own.has(id)),
    )
    .map(({ position }) => position);
  if (only.length === 0)
    return `${counted(causes.length, "cause")} of round ${open.number} ${causes.length === 1 ? "waits" : "wait"} for a person`;
  const {
    lists,
    joins,
    leaves,
    round: number,
  } = await stepInside(
    tx,
    { id: null, name: `Amigo (by itself, from ${name})` },
    { round: open.number, version: open.version, passed: {}, only },
  );
  return `round ${number} brought ${counted(lists, "list")} in step by itself: ${joins} joined, ${leaves} left`;
}
