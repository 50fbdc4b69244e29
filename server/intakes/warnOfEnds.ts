import { and, inArray, isNull, sql, eq } from "drizzle-orm";
import { endsSoonNote } from "@amigo/core/intake/intakeNotes";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { accountInForce } from "../callers/inForce";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { intakeRow, intake } from "../db/schema/intakes";
import { list, listRole } from "../db/schema/lists";
import { sendNote } from "../posting/sendNote";

/** How long before somebody's last day the leads are told, in days. */
const WARN_DAYS = 7;

/** Tells leads once, a week before, who leaves their lists by their last day; the coordinators where no lead can sign in. */
export async function warnOfEnds(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const [own] = await db.select().from(house);
  if (own === undefined) return 0;
  const today = dayIn(own.timeZone, now);
  const soon = dayIn(own.timeZone, new Date(now.getTime() + WARN_DAYS * 86_400_000));
  return db.transaction(async (tx) => {
    const rows = await tx
      .update(intakeRow)
      .set({ warnedAt: now })
      .where(
        and(
          inArray(intakeRow.outcome, ["added", "asked", "waiting"]),
          isNull(intakeRow.warnedAt),
          sql`${intakeRow.until} between ${today} and ${soon}`,
          sql`exists (select 1 from membership where membership.list_id = ${intakeRow.listId} and membership.address = ${intakeRow.address} and membership.valid_until is null)`,
        ),
      )
      .returning();
    let told = 0;
    for (const listId of new Set(rows.flatMap(({ listId: id }) => id ?? []))) {
      const [of] = await tx.select({ title: list.title }).from(list).where(eq(list.id, listId));
      const leads = await tx
        .select({ name: account.name, email: account.email })
        .from(listRole)
        .innerJoin(account, eq(account.id, listRole.accountId))
        .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce));
      const to =
        leads.length > 0
          ? leads
          : await tx
              .select({ name: account.name, email: account.email })
              .from(account)
              .where(and(eq(account.role, "coordinator"), accountInForce));
      const leaving = rows.filter((row) => row.listId === listId);
      const names = new Map(
        (
          await tx
            .select({ id: intake.id, name: intake.name })
            .from(intake)
            .where(
              inArray(
                intake.id,
                leaving.map(({ intakeId }) => intakeId),
              ),
            )
        ).map(({ id, name }) => [id, name]),
      );
      for (const { name, email } of to) {
        await sendNote(
          tx,
          { name, address: email },
          endsSoonNote(
            own.name,
            { title: of?.title ?? "", url: `${settings.url}/lists/${listId}` },
            leaving.map(({ cells, address, until, intakeId }) => ({
              person: cells.person,
              address,
              until: until ?? "",
              intake: names.get(intakeId) ?? "",
            })),
          ),
        );
        told++;
      }
    }
    return told;
  });
}
