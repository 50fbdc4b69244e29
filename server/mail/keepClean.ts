import { describeFailure } from "../describeFailure";
import { Refused } from "../refused";
import type { Context } from "../context";
import { notify } from "../events/events";
import { record } from "../events/record";
import { decideHeld } from "../posting/decideHeld";
import { t } from "../texts/t";
import { listForgottenHeld, eraseOldMessages } from "./queries";
import { loadHouse } from "../db/houseQueries";

/** Returns held mail on which nobody has decided for as long as the house waits. Returns how many; one that fails doesn't keep the others waiting. */
export async function returnForgotten({ db, log }: Pick<Context, "db" | "log">): Promise<number> {
  const { rows } = await listForgottenHeld(db);
  let returned = 0;
  for (const { id, days } of rows)
    try {
      const word = t("mail.nobodyDecidedOnItWithin", { days });
      const done = await decideHeld(db, id, { id: null, name: "Amigo" }, "return", word);
      // Refused: somebody has decided on it meanwhile.
      if (!(done instanceof Refused)) returned++;
    } catch (failure) {
      log.error({ failure: describeFailure(failure), post: id }, "held mail could not be returned");
    }
  return returned;
}

/**
 * Deletes from the archive what is older than the house keeps, and what went to lists that keep none, once every copy has
 * left or has been given up and every digest is out. The post's line stays, with the states of its copies.
 */
export async function eraseOld({ db }: Pick<Context, "db">): Promise<number> {
  return db.transaction(async (tx) => {
    const house = await loadHouse(tx);
    const { rowCount } = await eraseOldMessages(tx, house?.keep);
    const count = rowCount ?? 0;
    if (count > 0) {
      await record(tx, {
        actor: "Amigo",
        action: "archive",
        sentence: () => t("mail.deletedFromTheArchiveAs", { count }),
      });
      await notify(tx, "posts");
    }
    return count;
  });
}
