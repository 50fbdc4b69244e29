import { Refused } from "../refused";
import type { Queries } from "../db/connect";
import { stepInside } from "./bringInStep";
import { t } from "../texts/t";
import { listSourcesByThemselves } from "./queries";
import { findOpenRound } from "../change/roundQueries";
import { listDecisions } from "./causeQueries";

/**
 * Carries out by itself what sources that may do so have brought, where no guard stands. What comes from other
 * sources as well, or is held, waits for a person.
 *
 * @returns the result, in a sentence
 */
export async function stepByItself(tx: Queries, name: string): Promise<string | Refused> {
  const open = await findOpenRound(tx);
  if (open === undefined) return t("shared.nothingChanges");
  const [guard] = open.guards;
  if (guard !== undefined)
    return t("rounds.aSafetyCheckStopsRound", {
      number: open.number,
      about: guard.about,
      sentence: guard.sentence,
    });
  const known = new Set((await listSourcesByThemselves(tx)).map(({ id }) => id));
  const causes = await listDecisions(tx, open.number);
  const only = causes
    .filter(
      ({ sources, decision }) => decision === "accepted" && sources.every((id) => known.has(id)),
    )
    .map(({ position }) => position);
  if (only.length === 0)
    return t("rounds.ofRoundForAPerson", { causes: causes.length, number: open.number });
  const done = await stepInside(
    tx,
    { id: null, name: `Amigo (by itself, from ${name})` },
    { round: open.number, version: open.version, passed: {}, only },
  );
  if (done instanceof Refused) return done;
  const { lists, joins, leaves, round: number } = done;
  return t("rounds.roundBroughtInStepBy", { number, lists, joins, leaves });
}
