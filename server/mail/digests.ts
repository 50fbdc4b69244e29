import MimeNode from "nodemailer/lib/mime-node";
import { randomUUID } from "node:crypto";
import { and, eq, inArray, sql } from "drizzle-orm";
import { say, said } from "@amigo/language/say";
import { copyHeader } from "@amigo/core/mail/copyHeader";
import { beginningOf, digestContents } from "@amigo/core/mail/digestContents";
import { splitMessage } from "@amigo/core/mail/splitMessage";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { queueNote } from "../posting/acceptPost";
import { showMessage } from "../posting/showMessage";
import { house } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { message, post, digestItem } from "../db/schema/posts";

/** At most so many posts go into one digest; the rest follows in the next. */
const MOST_POSTS = 50;
/** At most so many octets. */
const MOST_BYTES = 15 * 1024 * 1024;

/**
 * Sends the digests that are due: daily ones once the house's hour has come, weekly ones on its day. Whoever has changed to
 * every message or to nothing meanwhile gets what still waits with the next daily ones, or nothing any more. Each post goes
 * into one digest, however many workers there are. Answers how many digests were sent.
 */
export async function sendDigests(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const [own] = await db.select().from(house);
  if (own === undefined) return 0;
  const { hour, weekday } = partsIn(own.timeZone, now);
  if (hour < own.digestHour) return 0;
  const isWeekly = weekday === own.digestDay;
  let sent = 0;
  const { rows } = await db.execute<{ address: string }>(sql`
    select distinct digest_item.address from digest_item join list on list.id = digest_item.list_id left join receiving on receiving.list_id = digest_item.list_id and receiving.address = digest_item.address
    where digest_item.sent_at is null and ${isDue(isWeekly)} and digest_item.at < ${startOfHour(own.timeZone, now, own.digestHour).toISOString()}::timestamptz order by digest_item.address`);
  for (const { address } of rows)
    sent += await db.transaction((tx) =>
      sendOne(
        tx,
        own,
        settings.url,
        address,
        isWeekly,
        startOfHour(own.timeZone, now, own.digestHour),
      ),
    );
  return sent;
}

/** That an item's time has come, by what its owner has chosen now. */
function isDue(isWeekly: boolean) {
  const chosen = sql`coalesce(receiving.how_often, list.rules->>'howOften')`;
  return isWeekly ? sql`true` : sql`${chosen} <> 'weekly'`;
}

async function sendOne(
  tx: Queries,
  own: typeof house.$inferSelect,
  url: string,
  address: string,
  isWeekly: boolean,
  before: Date,
): Promise<number> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`digest ${address}`}, 0))`);
  const { rows: items } = await tx.execute<{
    post_id: string;
    list_id: string;
    wanted: boolean;
  }>(sql`
    select digest_item.post_id, digest_item.list_id, coalesce(receiving.how_often, list.rules->>'howOften') <> 'nothing' and membership.id is not null and trouble.address is null and pause.address is null as wanted
    from digest_item join list on list.id = digest_item.list_id join post on post.id = digest_item.post_id
      left join receiving on receiving.list_id = digest_item.list_id and receiving.address = digest_item.address
      left join membership on membership.list_id = digest_item.list_id and membership.address = digest_item.address and membership.valid_until is null
      left join address_trouble as trouble on trouble.address = digest_item.address and trouble.state = 'stopped'
      left join pause on pause.address = digest_item.address and pause.until >= (now() at time zone ${own.timeZone})::date
    where digest_item.address = ${address} and digest_item.sent_at is null and ${isDue(isWeekly)} and digest_item.at < ${before.toISOString()}::timestamptz
      and (post.leaves_at is null or post.leaves_at <= now()) and post.paused_by = '' order by list.title, post.at limit ${MOST_POSTS} for update of digest_item`);
  if (items.length === 0) return 0;
  const wanted = items.filter((item) => item.wanted).map(({ post_id: id }) => id);
  const posts =
    wanted.length === 0
      ? []
      : await tx
          .select({
            id: post.id,
            subject: post.subject,
            fromName: post.fromName,
            fromAddress: post.fromAddress,
            at: post.at,
            raw: message.raw,
          })
          .from(post)
          .innerJoin(message, eq(message.id, post.messageId))
          .where(
            and(
              inArray(post.id, wanted),
              eq(post.outcome, "goes out"),
              sql`length(${message.raw}) > 0`,
            ),
          );
  const lists = new Map(
    (
      await tx
        .select({ id: list.id, name: list.name, title: list.title, rules: list.rules })
        .from(list)
        .where(inArray(list.id, [...new Set(items.map((item) => item.list_id))]))
    ).map((row) => [row.id, row]),
  );
  let size = 0;
  const taken = items.flatMap((item) => {
    const found = posts.find(({ id }) => id === item.post_id);
    const of = lists.get(item.list_id);
    if (found === undefined || of === undefined || !item.wanted) return [];
    size += found.raw.length;
    return size > MOST_BYTES && size > found.raw.length ? [] : [{ ...found, of }];
  });
  const left = new Set(
    posts.map(({ id }) => id).filter((id) => !taken.some((one) => one.id === id)),
  );
  await tx
    .update(digestItem)
    .set({ sentAt: sql`now()` })
    .where(
      and(
        eq(digestItem.address, address),
        inArray(
          digestItem.postId,
          items.map((item) => item.post_id).filter((id) => !left.has(id)),
        ),
      ),
    );
  if (taken.length === 0) return 0;
  const at = new Intl.DateTimeFormat("en-GB", {
    timeZone: own.timeZone,
    dateStyle: "medium",
    timeStyle: "short",
  });
  const shown = await Promise.all(
    taken.map(async (one) => ({
      ...one,
      line: {
        subject: one.subject,
        from: one.fromName || one.fromAddress,
        at: at.format(one.at),
        beginning: beginningOf((await showMessage(one.raw)).text),
        url: `${url}/posts/${one.id}`,
      },
    })),
  );
  const titles = [...new Set(shown.map(({ of }) => of.title))];
  const contents = digestContents(
    own.name,
    titles.map((title) => ({
      title,
      posts: shown.filter(({ of }) => of.title === title).map(({ line }) => line),
    })),
    `${url}/member`,
  );
  const raw = await digestMail({
    from: { name: `${own.name} lists`, address: `postmaster@${own.listDomain}` },
    to: address,
    ...said(contents),
    domain: own.listDomain,
    posts: shown.map(({ raw: body, of, fromName, fromAddress, id }) =>
      asPart(
        body,
        { name: of.name, title: of.title, domain: own.listDomain, rules: of.rules },
        { name: fromName, address: fromAddress },
        `${url}/posts/${id}`,
      ),
    ),
  });
  await queueNote(tx, raw.raw, raw.messageId, address, "digest");
  return 1;
}

/** A post as it stands in a digest: with the header that its copies have, so that nobody else's address goes along. */
function asPart(
  raw: Buffer,
  of: Parameters<typeof copyHeader>[1],
  from: { name: string; address: string },
  archivedAt: string,
): Buffer {
  const split = splitMessage(raw);
  return Buffer.concat([
    Buffer.from(
      copyHeader(split, of, {
        say,
        from,
        leaveUrl: "",
        oneClick: false,
        toLeads: true,
        archivedAt,
      }),
      "latin1",
    ),
    raw.subarray(split.bodyAt),
  ]);
}

/** Puts a digest together: a readable part with the contents, then the posts whole as `multipart/digest` (RFC 2046, section 5.1.5). */
async function digestMail(wanted: {
  from: { name: string; address: string };
  to: string;
  subject: string;
  text: string;
  domain: string;
  posts: readonly Buffer[];
}): Promise<{ raw: Buffer; messageId: string }> {
  const messageId = `<${randomUUID()}@${wanted.domain}>`;
  const root = new MimeNode("multipart/mixed", { newline: "windows" });
  root.setHeader([
    { key: "From", value: wanted.from },
    { key: "To", value: wanted.to },
    { key: "Subject", value: wanted.subject },
    { key: "Message-ID", value: messageId },
    { key: "Auto-Submitted", value: "auto-generated" },
    { key: "Precedence", value: "list" },
  ]);
  root.createChild("text/plain; charset=utf-8").setContent(wanted.text);
  const digest = root.createChild("multipart/digest");
  for (const one of wanted.posts) digest.createChild("message/rfc822").setContent(one);
  return { raw: await root.build(), messageId };
}

function partsIn(timeZone: string, now: Date): { hour: number; minute: number; weekday: number } {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone,
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
    weekday: "short",
  }).formatToParts(now);
  const of = (type: string): string => parts.find((part) => part.type === type)?.value ?? "";
  return {
    hour: Number(of("hour")),
    minute: Number(of("minute")),
    weekday: ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].indexOf(of("weekday")) + 1,
  };
}

/** The moment of today at which digests are put together; what comes later waits for the next. */
function startOfHour(timeZone: string, now: Date, hour: number): Date {
  const { hour: at, minute } = partsIn(timeZone, now);
  return new Date((Math.floor(now.getTime() / 60_000) - (at - hour) * 60 - minute) * 60_000);
}
