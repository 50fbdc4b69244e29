import { and, eq, gt, isNull, lte, or, sql } from "drizzle-orm";
import { day } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { fold } from "@amigo/core/text/fold";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import type { Kept, Member } from "@amigo/contract/lists";
import { HowOften } from "@amigo/contract/member";
import type { Queries } from "../db/connect";
import { heldAt } from "../facts/queries";
import { namesBehind } from "../membership/namesBehind";
import { whoBelongs, type Belonging } from "../membership/whoBelongs";
import { t } from "../texts/t";
import { house } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { fact } from "../db/schema/people";
import { list, listRole, membership } from "../db/schema/lists";
import { receiving, pause } from "../db/schema/members";

/** Everybody on a list, by name, each with what they are, why, since when, and how mail last fared. */
export async function memberTable(
  db: Queries,
  found: { id: string; seasonId: number; key: string },
  instant: Date | undefined,
): Promise<Member[]> {
  const byAddress = groupByAddress(await whoBelongs(db, found, instant));
  const kept = new Map((await keptOn(db, found, instant)).map((entry) => [entry.address, entry]));
  const onIt =
    instant === undefined
      ? isNull(membership.validUntil)
      : and(
          lte(membership.validFrom, instant),
          or(isNull(membership.validUntil), gt(membership.validUntil, instant)),
        );
  const rows = await db
    .select({ address: membership.address, since: membership.validFrom })
    .from(membership)
    .where(and(eq(membership.listId, found.id), onIt));
  const roles = new Map(
    (
      await db
        .select({ email: account.email, role: listRole.role })
        .from(listRole)
        .innerJoin(account, eq(account.id, listRole.accountId))
        .where(eq(listRole.listId, found.id))
    ).map(({ email, role }) => [email, role]),
  );
  const mails = await lastMails(db, found.id);
  const names = await namesBehind(
    db,
    found.seasonId,
    rows.map(({ address }) => address).filter((address) => !byAddress.has(address)),
  );
  const gets = await howOften(db, found.id);
  return rows
    .map(({ address, since }): Member => {
      const people = byAddress.get(address) ?? [];
      const mail = mails.get(address);
      const known = names.get(address);
      return {
        address,
        since: since.toISOString(),
        role: roles.get(address) ?? "member",
        what: people[0]?.role ?? known?.role ?? "",
        ...gets(address),
        kept: keptWords(kept.get(address)),
        state:
          mail === undefined
            ? ""
            : mail.state === "bounced"
              ? `bounced: ${mail.reply}`
              : mail.state === "sent"
                ? "reached"
                : mail.state,
        lastMail: mail?.at ?? null,
        people:
          people.length > 0 || known === undefined
            ? people.map(({ name, because, where }) => ({ name, because, where }))
            : [{ name: known.name, because: "", where: "" }],
      };
    })
    .sort((a, b) =>
      (a.people[0]?.name ?? a.address).localeCompare(b.people[0]?.name ?? b.address, "en"),
    );
}

/** The members whose address, names or reasons hold every word. */
export function filterMembers(members: readonly Member[], q: string): Member[] {
  const words = fold(q)
    .split(" ")
    .filter((word) => word !== "");
  return members.filter(({ address, people }) => {
    const text = fold(
      `${address} ${people.map(({ name, because }) => `${name} ${because}`).join(" ")}`,
    );
    return words.every((word) => text.includes(word));
  });
}

/** The addresses that somebody keeps on or off a list. */
export async function keptOn(
  db: Queries,
  found: { seasonId: number; key: string },
  instant: Date | undefined,
): Promise<Kept[]> {
  const rows = await db
    .select({ ref: fact.ref, value: fact.value, at: fact.validFrom })
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, found.seasonId),
        eq(fact.subject, found.key),
        eq(fact.kind, "kept"),
        heldAt(instant),
      ),
    )
    .orderBy(sql`${fact.validFrom} desc`);
  return rows.flatMap(({ ref, value, at }) =>
    typeof value === "object" && "side" in value
      ? [{ address: ref, at: at.toISOString(), ...value }]
      : [],
  );
}

function keptWords(entry: Kept | undefined): string {
  return entry?.side !== "on"
    ? ""
    : t("lists.keptOnBy", {
        by: entry.by,
        lastDay: day(entry.lastDay),
        reason: entry.reason,
      });
}

/** How often each address gets the mail of a list now: by its owner's choice, else by the list; or not until a day. */
async function howOften(
  db: Queries,
  listId: string,
): Promise<(address: string) => Pick<Member, "gets" | "howOften" | "isPaused">> {
  const [own] = await db.select({ rules: list.rules }).from(list).where(eq(list.id, listId));
  const chosen = new Map(
    (
      await db
        .select({ address: receiving.address, howOften: receiving.howOften })
        .from(receiving)
        .where(eq(receiving.listId, listId))
    ).map((row) => [row.address, row.howOften]),
  );
  const paused = new Map(
    (
      await db
        .select({ address: pause.address, until: pause.until })
        .from(pause)
        .innerJoin(
          membership,
          and(
            eq(membership.address, pause.address),
            eq(membership.listId, listId),
            isNull(membership.validUntil),
          ),
        )
        .innerJoin(house, sql`${pause.until} >= (now() at time zone ${house.timeZone})::date`)
    ).map((row) => [row.address, row.until]),
  );
  return (address) => {
    const until = paused.get(address);
    const value = HowOften.parse(chosen.get(address) ?? own?.rules.howOften ?? "every message");
    return {
      howOften: value,
      isPaused: until !== undefined,
      gets:
        until === undefined
          ? say(wordsOf("howOften", value))
          : t("lists.nothingUntil", { until: day(until) }),
    };
  };
}

function groupByAddress(belonging: readonly Belonging[]): Map<string, Belonging[]> {
  const groups = new Map<string, Belonging[]>();
  for (const own of belonging)
    for (const address of own.addresses) groups.set(address, [...(groups.get(address) ?? []), own]);
  return groups;
}

/** The last copy of a list for each address, and what became of it. */
async function lastMails(
  db: Queries,
  listId: string,
): Promise<Map<string, { state: string; reply: string; at: string | null }>> {
  const { rows } = await db.execute<{
    address: string;
    state: string;
    reply: string;
    at: Date | string | null;
  }>(
    sql`select distinct on (address) address, state, reply, coalesce(sent_at, created_at) as at from delivery where list_id = ${listId} order by address, id desc`,
  );
  return new Map(
    rows.map(({ address, state, reply, at }) => [
      address,
      { state, reply, at: at === null ? null : new Date(at).toISOString() },
    ]),
  );
}
