import { noticeOf, PUSH_TOPICS, type News } from "@amigo/core/push/topics";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import type { Queries } from "../db/connect";
import { inStaffLanguage } from "../texts/inLanguage";
import { openPushKey, type PushKey } from "./pushKey";
import {
  forgetTold,
  listDevices,
  listNews,
  removeFailing,
  removeGone,
  storeTaken,
  storeTold,
  takeListeners,
} from "./queries";
import { sendPush, type PushMessage, type Taken } from "./sendPush";

/** After so many messages in a row that its push service didn't take, a device is removed: a day of tries, one a minute. */
const MOST_FAILURES = 1440;
/** For how long what was told is remembered, in days: longer than anything stays open. */
const REMEMBERED_DAYS = 400;

type Told = Pick<Context, "db" | "houseKey" | "settings">;

/**
 * Tells staff on their devices what is new of what they chose, each thing once, however many workers there are: one message a topic,
 * with how many. Where no device took it, it is told the next time. Returns how many messages were taken.
 */
export async function tellDevices(context: Told): Promise<number> {
  const { db } = context;
  await forgetTold(db, new Date(Date.now() - REMEMBERED_DAYS * 86_400_000));
  return db.transaction(async (tx) => {
    const listeners = await takeListeners(tx);
    if (listeners.length === 0) return 0;
    const key = await openPushKey({ db: tx, houseKey: context.houseKey });
    let taken = 0;
    for (const { caller, topics, since, language } of listeners)
      for (const topic of PUSH_TOPICS.filter((one) => topics.includes(one))) {
        const news = await listNews(tx, topic, caller, since);
        if (news.length === 0) continue;
        const sent = await sendToAll(
          tx,
          caller.id,
          inStaffLanguage(() => messageOf(news, context.settings.url), language),
          await sending(tx, context, key),
        );
        if (sent > 0) await storeTold(tx, caller.id, news);
        taken += sent;
      }
    return taken;
  });
}

/** Returns by what messages are sent. */
export async function sending(db: Queries, { settings }: Pick<Context, "settings">, key: PushKey) {
  const house = await loadHouse(db);
  return {
    key,
    sender: `mailto:postmaster@${house?.listDomain ?? "localhost"}`,
    allowed: settings.allowedHosts,
  };
}

function messageOf(news: readonly News[], url: string): PushMessage {
  const topic = news[0]?.topic ?? "held mail";
  const { title, names, path } = noticeOf(topic, news);
  return { title: say(title), body: names.join("\n"), url: `${url}${path}`, tag: topic };
}

/** Sends a message to all devices of an account, and removes those that are gone. Returns how many took it. */
async function sendToAll(
  db: Queries,
  accountId: string,
  message: PushMessage,
  by: Parameters<typeof sendPush>[2],
): Promise<number> {
  const devices = await listDevices(db, accountId);
  const answers = await Promise.all(
    devices.map(async (device) => [device.id, await sendPush(device, message, by)] as const),
  );
  const all = (wanted: Taken): string[] =>
    answers.filter(([, answer]) => answer === wanted).map(([id]) => id);
  for (const id of all("taken")) await storeTaken(db, id, true);
  for (const id of all("not now")) await storeTaken(db, id, false);
  await removeGone(db, all("gone"));
  await removeFailing(db, MOST_FAILURES);
  return all("taken").length;
}
