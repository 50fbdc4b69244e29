import type { z } from "zod";
import type { HowOften } from "@amigo/contract/member";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { t } from "../texts/t";
import { storeHowOften } from "./queries";

/** Settles how often an address gets the mail of one list, and writes down who chose it: its owner, or somebody who leads the list. */
export async function setHowOften(
  db: Queries,
  actor: { id: string | null; name: string },
  listId: string,
  address: string,
  howOften: z.output<typeof HowOften>,
): Promise<void> {
  await storeHowOften(db, listId, address, howOften);
  // A choice of the texts has no spaces.
  const what = howOften.replace(" ", "");
  await record(db, {
    actorId: actor.id,
    actor: actor.name,
    action: "how often",
    listId,
    sentence: () =>
      actor.name === address
        ? t("membership.choseToGet", { address, what })
        : t("membership.setThatGets", { name: actor.name, address, what }),
  });
  await notify(db, "board");
}
