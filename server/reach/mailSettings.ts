import { type getMailHouse, type putMailSettings, type MailSettings } from "@amigo/contract/mail";
import type { Context } from "../context";
import { type house } from "../db/schema/house";
import { Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { versionOf, refuseStale } from "../http/version";
import { record } from "../journal/record";
import { dnsRecords } from "../mail/dnsRecords";
import { t } from "../texts/t";
import { loadHouse } from "../db/houseQueries";
import { countQueue, lockMailSettings, storeMailSettings } from "./queries";

/** Returns the queue, the mail settings, and the DNS records with what was found of them. */
export async function showMailSettings(context: Context): Promise<Answer<typeof getMailHouse>> {
  const { db } = context;
  const own = await loadHouse(db);
  if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const {
    rows: [counts],
  } = await countQueue(db);
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

/** Changes digests, keeping, holding and taking back. */
export async function changeMailSettings(
  { db }: Context,
  { body: { version, ...body }, caller }: Request<typeof putMailSettings>,
): Promise<Answer<typeof putMailSettings>> {
  await db.transaction(async (tx) => {
    const own = await lockMailSettings(tx);
    if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    const before = mailSettings(own);
    refuseStale(before, version);
    await storeMailSettings(tx, body);
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
