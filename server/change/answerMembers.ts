import { refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { welcome } from "../membership/greet";
import { whoBelongs } from "../membership/whoBelongs";
import type { Actor } from "./carryOut";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { findList } from "../membership/queries";
import { answerWaiting, answerQuestionOf } from "./memberQueries";
import { beginMemberships } from "./membershipQueries";
import { lockRounds } from "./roundQueries";
import { changeKept } from "./changeKept";

/** A lead's word on addresses that wait: they come onto the list, or they do not. Returns how many came. */
export async function agree(
  db: Database,
  {
    actor,
    listId,
    ids,
    yes,
  }: { actor: Actor; listId: string; ids: readonly string[]; yes: boolean },
): Promise<{ members: number } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const rows = await answerWaiting(tx, yes, listId, ids);
    if (rows.length === 0) return refused(409, "agree/done", t("rounds.somebodyHasDecidedOnThis"));
    for (const { address, reason, lastDay, by, words } of yes ? rows : []) {
      const wrong = await changeKept(
        tx,
        actor,
        listId,
        [address],
        () => ({
          side: "on",
          reason: inStaffLanguage(() => t("rounds.reasonAgreedBy", { reason, by: actor.name })),
          by,
          lastDay,
        }),
        () => t("rounds.agreedThatComesOntoThis", { name: actor.name, address, by }),
      );
      if (wrong instanceof Refused) return wrong;
      if (words !== null) await welcome(tx, listId, [address], words);
    }
    if (!yes)
      await record(tx, {
        actorId: actor.id,
        actor: actor.name,
        action: "not agreed",
        listId,
        sentence: () => t("rounds.didNotAgreeToOn", { name: actor.name, rows: rows.length }),
        after: { addresses: rows.map(({ address }) => address) },
      });
    await notify(tx, "board");
    return { members: yes ? rows.length : 0 };
  });
}

/** Takes the yes of somebody who was asked. Said twice, it holds once; for a list that no longer wants them nothing happens. */
export async function answerAsk(
  db: Database,
  { id }: { id: string },
): Promise<{ member: boolean } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const asked = await answerQuestionOf(tx, id);
    if (asked === undefined) return { member: true };
    const { listId, address, reason, lastDay, by, words } = asked;
    if (asked.origin === "hand") {
      const wrong = await changeKept(
        tx,
        { id: null, name: address },
        listId,
        [address],
        () => ({
          side: "on",
          reason: inStaffLanguage(() => t("rounds.askedBySaidYes", { reason, by })),
          by,
          lastDay,
        }),
        () => t("rounds.wasAskedByAndSaid", { address, by }),
      );
      if (wrong instanceof Refused) return wrong;
      if (words !== null) await welcome(tx, listId, [address], words);
      return { member: true };
    }
    const list = await findList(tx, listId);
    if (
      list === undefined ||
      list.closedAt !== null ||
      !(await whoBelongs(tx, list)).some(({ addresses }) => addresses.includes(address))
    )
      return { member: false };
    await beginMemberships(tx, [{ listId, address, origin: "audience" }]);
    await record(tx, {
      actorId: null,
      actor: address,
      action: "said yes",
      listId,
      sentence: () => t("rounds.wasAskedAndSaidYes", { address }),
    });
    await notify(tx, "board", "people");
    return { member: true };
  });
}
