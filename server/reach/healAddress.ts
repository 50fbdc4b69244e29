import { sql } from "drizzle-orm";
import { type postHeal } from "@amigo/contract/mail";
import type { Context } from "../context";
import { notFound, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { heal } from "../mail/trouble";
import { peopleOf } from "../membership/scope";
import { t } from "../texts/t";
import { findKnownAddress } from "./queries";

/** Lets mail go to an address again. */
export async function healAddress(
  { db }: Context,
  { body, caller }: Request<typeof postHeal>,
): Promise<Answer<typeof postHeal>> {
  const within = peopleOf(caller, sql`(select id from season where current)`);
  if (within !== undefined) {
    const mine = await findKnownAddress(db, body.address, within);
    if (mine === undefined) throw notFound("address");
  }
  const was = await db.transaction((tx) =>
    heal(
      tx,
      body.address,
      { id: caller.id, name: caller.name },
      t("reach.saysThatItWorks", { name: caller.name }),
    ),
  );
  if (!was) throw new Refusal(409, "reach/well", t("reach.nothingIsWrongWithThis"));
  return { done: true as const };
}
