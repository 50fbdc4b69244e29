import { giveSeats } from "@amigo/core/calendar/seats";
import type { Queries } from "../db/connect";
import { listComers, storeWaiting } from "./guestQueries";

/**
 * Gives the places of a date to those who come, and the others a place in line. Within a transaction that holds the date.
 *
 * @param places how many people can come; null for any number
 */
export async function shareSeats(
  tx: Queries,
  { id, places }: { id: string; places: number | null },
): Promise<void> {
  const comers = await listComers(tx, id);
  const seated = giveSeats(
    comers.map((comer) => ({ ...comer, hasPlace: !comer.isWaiting })),
    places,
  );
  for (const isWaiting of [false, true])
    await storeWaiting(
      tx,
      comers
        .filter((comer) => comer.isWaiting !== isWaiting && seated.has(comer.id) !== isWaiting)
        .map((comer) => comer.id),
      isWaiting,
    );
}
