import { eq, sql } from "drizzle-orm";
import type { Hono } from "hono";
import {
  getMailHouse,
  getReach,
  postHeal,
  postQueue,
  putMailSettings,
  type MailSettings,
} from "@amigo/contract/mail";
import type { Context } from "../context";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../journal/record";
import { dnsRecords } from "../mail/dnsRecords";
import { heal } from "../mail/trouble";
import { peopleOf } from "../membership/scope";
import { reachOf } from "./reach";
import { t } from "../texts/t";
import { house } from "../db/schema/house";
import { fact } from "../db/schema/people";

/** How mail fares in the house: the queue and its settings, the DNS, and who is reached. */
export function reachRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getReach, async ({ caller }) => reachOf(db, caller));

  route(app, context, postHeal, async ({ body, caller }) => {
    const within = peopleOf(caller, sql`(select id from season where current)`);
    if (within !== undefined) {
      const [mine] = await db
        .select({ id: fact.id })
        .from(fact)
        .where(
          sql`${fact.kind} = 'address' and ${fact.ref} = ${body.address} and ${fact.validUntil} is null and ${fact.subject} in ${within}`,
        )
        .limit(1);
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
  });

  route(app, context, getMailHouse, async () => {
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
  });

  route(app, context, putMailSettings, async ({ body: { version, ...body }, caller }) => {
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
  });

  route(app, context, postQueue, async ({ body, caller }) => {
    await db.transaction(async (tx) => {
      await tx.update(house).set({ queuePausedBy: body.paused ? caller.name : "" });
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: body.paused ? "pause queue" : "resume queue",
        sentence: body.paused
          ? t("reach.pausedSending", { name: caller.name })
          : t("reach.resumedSending", { name: caller.name }),
      });
      await notify(tx, "queue", "posts", "board");
    });
    return { done: true as const };
  });
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
