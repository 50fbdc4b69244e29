import { type getMailHouse, type putMailSettings, type MailSettings } from "@amigo/contract/mail";
import type { Context } from "../context";
import { type house } from "../db/schema/house";
import { Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { versionOf, refuseStale } from "../http/version";
import { record } from "../events/record";
import { showKeys } from "../mail/showKeys";
import { relayAway } from "../relay/relayAway";
import { t } from "../texts/t";
import { loadHouse, lockHouse } from "../db/houseQueries";
import { countQueue, storeMailSettings } from "./queries";

/** Returns the queue, the mail settings, and the DNS records with what was found of them. */
export async function showMailSettings(context: Context): Promise<Answer<typeof getMailHouse>> {
  const { db } = context;
  const house = await loadHouse(db);
  if (house === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const {
    rows: [counts],
  } = await countQueue(db);
  return {
    settings: mailSettings(house),
    version: versionOf(mailSettings(house)),
    queue: {
      pausedBy: house.queuePausedBy,
      waiting: counts?.waiting ?? 0,
      deferred: counts?.deferred ?? 0,
      sentToday: counts?.sent ?? 0,
      bouncedToday: counts?.bounced ?? 0,
      oldest: counts?.oldest == null ? null : new Date(counts.oldest).toISOString(),
      relayAway: await relayAway(db, context.settings),
    },
    ...(await showKeys(context, house.listDomain)),
  };
}

/** Changes digests, keeping, holding and taking back. */
export async function changeMailSettings(
  { db }: Context,
  { body: { version, ...body }, caller }: Request<typeof putMailSettings>,
): Promise<Answer<typeof putMailSettings>> {
  await db.transaction(async (tx) => {
    const settings = await lockHouse(tx);
    if (settings === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    const before = mailSettings(settings);
    refuseStale(before, version);
    await storeMailSettings(tx, body);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "mail settings",
      sentence: () => t("reach.changedHowMailIsHeld", { name: caller.name }),
      before,
      after: body,
    });
  });
  return { version: versionOf(body) };
}

function mailSettings(settings: typeof house.$inferSelect): MailSettings {
  return {
    undoSeconds: settings.undoSeconds,
    digestHour: settings.digestHour,
    digestDay: settings.digestDay,
    heldDays: settings.heldDays,
    manyAddresses: settings.manyAddresses,
    softDays: settings.softDays,
    languageParts: settings.languageParts,
  };
}
