import { and, eq, sql } from "drizzle-orm";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { lockRounds, recountRound } from "./openRound";
import { t } from "../texts/t";
import { round } from "../db/schema/rounds";

/**
 * Accepts or holds causes of the open round, and counts it again.
 *
 * @throws Refusal 409 when that round is no longer open
 */
export async function decide(
  db: Database,
  wanted: { round: number; causes: readonly number[]; decision: "accepted" | "held" },
): Promise<{ version: number }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const [open] = await tx
      .select()
      .from(round)
      .where(and(eq(round.number, wanted.round), eq(round.state, "open")));
    if (open === undefined)
      throw new Refusal(
        409,
        "round/done",
        t("rounds.roundIsNoLongerOpen", { round: wanted.round }),
      );
    await tx.execute(
      sql`update cause set decision = ${wanted.decision} from json_array_elements_text(${JSON.stringify(wanted.causes)}::json) as chosen(position) where cause.round = ${open.number} and cause.position = chosen.position::int`,
    );
    const version = open.version + 1;
    await tx.update(round).set({ version }).where(eq(round.number, open.number));
    await recountRound(tx, open);
    await notify(tx, "rounds");
    return { version };
  });
}
