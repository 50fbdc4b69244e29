import { inOrder } from "@amigo/language/inOrder";
import { and, gt, isNull, lte, or } from "drizzle-orm";
import { day } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { fold } from "@amigo/core/text/fold";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import type { Kept, Member } from "@amigo/contract/members";
import { HowOften } from "@amigo/contract/member";
import type { Queries } from "../db/connect";
import { namesBehind } from "../membership/namesBehind";
import { whoBelongs, type Belonging } from "../membership/whoBelongs";
import { t } from "../texts/t";
import { membership } from "../db/schema/lists";
import {
  listMembers,
  listRoles,
  listKeptFacts,
  listHowOften,
  listPauses,
  listLastCopies,
} from "./memberQueries";
import { findList } from "../membership/queries";

/** Everybody on a list, by name, each with what they are, why, since when, and how mail last fared. */
export async function memberTable(
  db: Queries,
  found: { id: string; seasonId: number; key: string },
  instant: Date | undefined,
): Promise<Member[]> {
  const onIt =
    instant === undefined
      ? isNull(membership.validUntil)
      : and(
          lte(membership.validFrom, instant),
          or(isNull(membership.validUntil), gt(membership.validUntil, instant)),
        );
  const [belonging, keptHere, rows, running, mails, gets] = await Promise.all([
    whoBelongs(db, found, instant),
    keptOn(db, found, instant),
    listMembers(db, found.id, onIt),
    listRoles(db, found.id),
    lastMails(db, found.id),
    howOften(db, found.id),
  ]);
  const byAddress = groupByAddress(belonging);
  const kept = new Map(keptHere.map((entry) => [entry.address, entry]));
  const roles = new Map(running.map(({ email, role }) => [email, role]));
  const names = await namesBehind(
    db,
    found.seasonId,
    rows.map(({ address }) => address).filter((address) => !byAddress.has(address)),
  );
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
    .sort((a, b) => inOrder(a.people[0]?.name ?? a.address, b.people[0]?.name ?? b.address));
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
  const rows = await listKeptFacts(db, found.seasonId, found.key, instant);
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
  const rules = await findList(db, listId);
  const chosen = new Map(
    (await listHowOften(db, listId)).map((row) => [row.address, row.howOften]),
  );
  const paused = new Map((await listPauses(db, listId)).map((row) => [row.address, row.until]));
  return (address) => {
    const until = paused.get(address);
    const value = HowOften.parse(chosen.get(address) ?? rules?.rules.howOften ?? "every message");
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
  for (const item of belonging)
    for (const address of item.addresses)
      groups.set(address, [...(groups.get(address) ?? []), item]);
  return groups;
}

/** The last copy of a list for each address, and its state. */
async function lastMails(
  db: Queries,
  listId: string,
): Promise<Map<string, { state: string; reply: string; at: string | null }>> {
  const { rows } = await listLastCopies(db, listId);
  return new Map(
    rows.map(({ address, state, reply, at }) => [
      address,
      { state, reply, at: at === null ? null : new Date(at).toISOString() },
    ]),
  );
}
