import { fillRaw } from "../posting/fillRaw";
import { inTurnFor } from "@amigo/core/mail/versions";
import { filledVersions } from "@amigo/core/mail/merge";
import MimeNode from "nodemailer/lib/mime-node";
import { randomUUID } from "node:crypto";
import { say, said } from "@amigo/language/say";
import { copyHeader } from "@amigo/core/mail/copyHeader";
import { beginningOf, digestContents } from "@amigo/core/mail/digestContents";
import { displayName } from "@amigo/core/mail/headerText";
import { mailDate } from "@amigo/core/mail/receivedField";
import { splitMessage } from "@amigo/core/mail/splitMessage";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { queueNote } from "../posting/acceptPost";
import { makeLink } from "../posting/mailLink";
import { showMessage } from "../posting/showMessage";
import { type house } from "../db/schema/house";
import { loadHouse } from "../db/houseQueries";
import { repairMail } from "./repairMail";
import { partsIn } from "./partsIn";
import {
  listDueDigests,
  startOfHour,
  lockDigest,
  listDigestItems,
  listDigestPosts,
  listDigestLists,
  markDigestSent,
} from "./digestQueries";
import { languageOf } from "../texts/familyLanguage";
import { inLanguage, localeFor } from "../texts/inLanguage";
/** The largest digest, in octets. */
const MOST_BYTES = 15 * 1024 * 1024;

/**
 * Sends the digests that are due: daily ones once the house's hour has come, weekly ones on its day. Whoever has changed to
 * every message or to nothing meanwhile gets what still waits with the next daily ones, or nothing any more. Each post goes
 * into one digest, however many workers there are. Returns how many digests were sent.
 */
export async function sendDigests(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const { hour, weekday } = partsIn(house.timeZone, now);
  if (hour < house.digestHour) return 0;
  const isWeekly = weekday === house.digestDay;
  let sent = 0;
  const { rows } = await listDueDigests(db, isWeekly, house.timeZone, house.digestHour, now);
  for (const { address } of rows)
    sent += await db.transaction((tx) =>
      sendOne(
        tx,
        house,
        settings.url,
        address,
        isWeekly,
        startOfHour(house.timeZone, now, house.digestHour),
      ),
    );
  return sent;
}

async function sendOne(
  tx: Queries,
  settings: typeof house.$inferSelect,
  url: string,
  address: string,
  isWeekly: boolean,
  before: Date,
): Promise<number> {
  await lockDigest(tx, address);
  const { rows: items } = await listDigestItems(tx, settings.timeZone, address, isWeekly, before);
  if (items.length === 0) return 0;
  const wanted = items.filter((item) => item.wanted).map(({ post_id: id }) => id);
  const language = await languageOf(tx, address);
  const posts = wanted.length === 0 ? [] : await postsInTurn(tx, wanted, language);
  const lists = new Map((await listDigestLists(tx, items)).map((row) => [row.id, row]));
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
  await markDigestSent(tx, address, items, left);
  if (taken.length === 0) return 0;
  const at = new Intl.DateTimeFormat(localeFor(language), {
    timeZone: settings.timeZone,
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
    settings.name,
    titles.map((title) => ({
      title,
      posts: shown.filter(({ of }) => of.title === title).map(({ line }) => line),
    })),
    `${url}/member`,
  );
  const raw = await digestMail({
    from: { name: `${settings.name} lists`, address: `postmaster@${settings.listDomain}` },
    to: address,
    ...inLanguage(language, () => said(contents)),
    domain: settings.listDomain,
    fields: await listFields(tx, [...new Set(taken.map(({ of }) => of))], address, settings, url),
    posts: shown.map(
      ({ raw: body, of, fromName, fromAddress, id, asList, at: sentAt, messageId }) =>
        asPart(
          repairMail(body, sentAt, messageId),
          { name: of.name, title: of.title, domain: settings.listDomain, rules: of.rules },
          { name: fromName, address: fromAddress },
          { archivedAt: of.rules.archive === "none" ? undefined : `${url}/posts/${id}`, asList },
        ),
    ),
  });
  await queueNote(tx, raw.raw, raw.messageId, address, "digest");
  return 1;
}

/** Returns the posts of a digest, those in several languages with its reader's first. */
async function postsInTurn(tx: Queries, ids: string[], language: string) {
  return Promise.all(
    (await listDigestPosts(tx, ids)).map(async ({ merge, ...found }) => {
      if (merge?.versions === undefined) return found;
      const versions = filledVersions(inTurnFor(merge.versions, language), {});
      return { ...found, raw: await fillRaw(found.raw, versions) };
    }),
  );
}

/** For how long the leave link of a digest works, in hours. */
const HOURS_TO_LEAVE = 30 * 24;

/**
 * The list fields of a digest (RFC 2369, RFC 2919): of a single list its own, with a link by which one leaves it with one
 * click (RFC 8058) where members leave by themselves; of several the member's page, on which all of them are.
 */
async function listFields(
  tx: Queries,
  lists: readonly DigestList[],
  address: string,
  { name, listDomain }: typeof house.$inferSelect,
  url: string,
): Promise<Record<string, string>> {
  const page = `<${url}/member>`;
  const [only] = lists;
  if (lists.length !== 1 || only === undefined)
    return {
      "List-Id": `${displayName(name)} <digest.${listDomain}>`,
      "List-Help": page,
      "List-Unsubscribe": page,
    };
  const common = {
    "List-Id": `${displayName(only.title)} <${only.name}.${listDomain}>`,
    "List-Help": `<mailto:${only.name}-request@${listDomain}>`,
    "List-Owner": `<mailto:${only.name}+leads@${listDomain}>`,
  };
  if (only.rules.leaving !== "by oneself") return { ...common, "List-Unsubscribe": page };
  const token = await makeLink(tx, {
    ...{ purpose: "leave", about: only.id, hours: HOURS_TO_LEAVE, address },
  });
  return {
    ...common,
    "List-Unsubscribe": `<${url}/leave/yes/${token}>, <mailto:${only.name}+leave@${listDomain}>`,
    "List-Unsubscribe-Post": "List-Unsubscribe=One-Click",
  };
}

type DigestList = Awaited<ReturnType<typeof listDigestLists>>[number];

/** A post as it stands in a digest: with the header that its copies have, so that nobody else's address goes along. */
function asPart(
  raw: Buffer,
  of: Parameters<typeof copyHeader>[1],
  from: { name: string; address: string },
  { archivedAt, asList }: { archivedAt: string | undefined; asList: boolean },
): Buffer {
  const split = splitMessage(raw);
  return Buffer.concat([
    Buffer.from(
      copyHeader(split, of, {
        say,
        from,
        leaveUrl: undefined,
        oneClick: false,
        toLeads: false,
        asList,
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
  /** Further fields of its header. */
  fields: Readonly<Record<string, string>>;
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
    { key: "Date", value: mailDate(new Date()) },
    { key: "MIME-Version", value: "1.0" },
    ...Object.entries(wanted.fields).map(([key, value]) => ({
      key,
      value: { prepared: true, foldLines: true, value },
    })),
  ]);
  root.createChild("text/plain; charset=utf-8").setContent(wanted.text);
  const digest = root.createChild("multipart/digest");
  for (const one of wanted.posts) digest.createChild("message/rfc822").setContent(one);
  return { raw: await root.build(), messageId };
}
