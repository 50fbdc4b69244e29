import { sql, eq } from "drizzle-orm";
import { type getMailHouse, type putMailSettings, type MailSettings } from "@amigo/contract/mail";
import type { Context } from "../context";
import { house } from "../db/schema/house";
import { Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { versionOf, refuseStale } from "../http/version";
import { record } from "../journal/record";
import { dnsRecords } from "../mail/dnsRecords";
import { t } from "../texts/t";

export async function showMailSettings(context: Context): Promise<Answer<typeof getMailHouse>> {
  const { db } = context;
  const [own] = await db.select().from(house);
  if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const {
    rows: [counts],
  } = await db.execute<{
    waiting: number;
    deferred: number;
    sent: number;
    bounced: number;
    oldest: Date | string | null;
  }>(sql`
      select count(*) filter (where state in ('queued', 'sending'))::int as waiting, count(*) filter (where state = 'deferred')::int as deferred,
        (select count(*)::int from delivery where sent_at > now() - interval '1 day') as sent, (select count(*)::int from bounce where at > now() - interval '1 day' and sort <> 'not a bounce') as bounced,
        min(created_at) as oldest from delivery where state in ('queued', 'sending', 'deferred')`);
  return {
    settings: mailSettings(own),
    version: versionOf(mailSettings(own)),
    queue: {
      pausedBy: own.queuePausedBy,
      waiting: counts?.waiting ?? 0,
      deferred: counts?.deferred ?? 0,
      sentToday: counts?.sent ?? 0,
      bouncedToday: counts?.bounced ?? 0,
      oldest: counts?.oldest == null ? null : new Date(counts.oldest).toISOString(),
    },
    records: await dnsRecords(context, own.listDomain),
  };
}

export async function changeMailSettings(
  { db }: Context,
  { body: { version, ...body }, caller }: Request<typeof putMailSettings>,
): Promise<Answer<typeof putMailSettings>> {
  await db.transaction(async (tx) => {
    const [own] = await tx.select().from(house).for("update");
    if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    const before = mailSettings(own);
    refuseStale(before, version);
    await tx.update(house).set(body).where(eq(house.id, 1));
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "mail settings",
      sentence: t("reach.changedHowMailIsHeld", { name: caller.name }),
      before,
      after: body,
    });
  });
  return { version: versionOf(body) };
}

function mailSettings(own: typeof house.$inferSelect): MailSettings {
  return {
    undoSeconds: own.undoSeconds,
    digestHour: own.digestHour,
    digestDay: own.digestDay,
    heldDays: own.heldDays,
    manyAddresses: own.manyAddresses,
    softDays: own.softDays,
  };
}
