import { onDatabase } from "../db/onDatabase";
import { verifyChain, type ChainEnd } from "../journal/chain";

/** How many faults are told of; what else is wrong follows from the first ones mostly. */
const MOST_FAULTS = 20;

/**
 * Looks whether the journal is as it was written, and says so.
 *
 * @param known the end as an earlier look printed it
 * @throws Error with all that is wrong
 */
export async function verifyJournal(
  databaseUrl: string | undefined,
  known: string | undefined,
): Promise<string> {
  const noted = known === undefined ? undefined : endIn(known);
  const { faults, entries, removed, changed, end } = await onDatabase(databaseUrl, (tx) =>
    verifyChain(tx, noted),
  );
  if (faults.length > 0)
    throw new Error(
      [
        `The journal isn't as it was written (${faults.length} ${faults.length === 1 ? "fault" : "faults"}):`,
        ...faults.slice(0, MOST_FAULTS).map((fault) => `  ${fault}`),
      ].join("\n"),
    );
  return [
    `The journal is as it was written: ${counted(entries - removed, "entry", "entries")} in an unbroken chain.`,
    ...(removed > 0
      ? [`${counted(removed, "older entry was", "older entries were")} removed over time.`]
      : []),
    ...(changed > 0
      ? [`Personal data was taken out of entries ${counted(changed, "time", "times")}.`]
      : []),
    `Its end, to be noted elsewhere: ${end.place}:${end.hash}`,
  ].join("\n");
}

function endIn(known: string): ChainEnd {
  const [, place, hash = ""] = /^(\d{1,15}):([\da-f]{64})$/i.exec(known.trim()) ?? [];
  if (place === undefined)
    throw new Error("Give --known as `amigo journal verify` prints it, such as 57:9f86d081…");
  return { place: Number(place), hash: hash.toLowerCase() };
}

function counted(count: number, one: string, many: string): string {
  return `${count} ${count === 1 ? one : many}`;
}
