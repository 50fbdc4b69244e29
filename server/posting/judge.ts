import { said, type Said } from "@amigo/language/say";
import { isInside } from "@amigo/core/address/isInside";
import {
  PLAIN_MESSAGE,
  type MessageToJudge,
  type Proof,
  type Sender,
} from "@amigo/core/posting/mailToJudge";
import type { Rules } from "@amigo/core/posting/rules/rule";
import {
  sightOf,
  verdict,
  type Closed,
  type Sight,
  type Verdict,
} from "@amigo/core/posting/verdict";
import type { Queries } from "../db/connect";
import {
  findSender,
  listRolesOf,
  listMemberships,
  countPostsToday,
  findClosedList,
  findOpenList,
  listNamesBehind,
} from "./judgeQueries";
import { insideDomains } from "../db/insideDomains";

/** What is needed of a list to judge mail to it. */
export interface JudgedList {
  id: string;
  rules: Rules;
  closedAt: Date | null;
  siteId: number | null;
}

/** What the rules of a list make of mail of one address, what its owner could see of it, and by what name they go. */
export interface Judged {
  verdict: Said<Verdict>;
  sight: Said<Sight>;
  name: string;
}

/** What else is told of a mail, and of whoever asks. */
export interface MoreToJudge {
  /** The message; a plain one by default. */
  message?: Omit<MessageToJudge, "postsToday"> | undefined;
  /** Whether whoever asks may learn who is behind an address; the rules themselves know everybody. */
  isKnown?: (address: string) => boolean;
}

/** Says what the rules of a list make of a message of one address; without a message, of a plain one. */
export async function judge(
  db: Queries,
  to: JudgedList,
  address: string,
  proof: Proof,
  more: MoreToJudge = {},
): Promise<Judged> {
  const judged = await judgeMany(db, [to], address, proof, more);
  return {
    name: judged.name,
    ...judged.of(to, to.closedAt === null ? undefined : await closedWords(db, to.id)),
  };
}

/** The same for many lists at once: what is asked of the database does not grow with them. */
export async function judgeMany(
  db: Queries,
  lists: readonly JudgedList[],
  address: string,
  proof: Proof,
  { message, isKnown = () => true }: MoreToJudge = {},
): Promise<{ name: string; of(to: JudgedList, closed?: Closed): Omit<Judged, "name"> }> {
  const foundSender = await findSender(db, address);
  const roles = new Map(
    foundSender === undefined
      ? []
      : (await listRolesOf(db, foundSender.id)).map(({ listId, role }) => [listId, role]),
  );
  const on = new Set((await listMemberships(db, address)).map(({ listId }) => listId));
  const inside = await insideDomains(db);
  const known =
    foundSender?.name ?? (isKnown(address) ? (await listNamesBehind(db, address))[0] : undefined);
  const written = await postsToday(
    db,
    lists.map(({ id }) => id),
  );
  return {
    name: known ?? address,
    of: (to, closed) => {
      const isCoordinator =
        foundSender?.role === "coordinator" ||
        (foundSender?.role === "site coordinator" &&
          foundSender.siteId !== null &&
          foundSender.siteId === to.siteId);
      const sender: Sender = {
        name: known ?? address,
        address,
        isCoordinator,
        listRole: roles.get(to.id) ?? "none",
        isMember: on.has(to.id),
        isInside: isInside(address, inside),
        isKnown: known !== undefined || on.has(to.id),
      };
      const mail = {
        sender,
        proof,
        message: { ...PLAIN_MESSAGE, ...message, postsToday: written.get(to.id) ?? 0 },
      };
      return {
        verdict: said(
          verdict(mail, { rules: to.rules, ...(closed === undefined ? {} : { closed }) }),
        ),
        sight: said(sightOf(sender, foundSender !== undefined, to.rules)),
      };
    },
  };
}

/** How many posts went out to each of some lists since midnight in the house's time zone. */
async function postsToday(db: Queries, lists: readonly string[]): Promise<Map<string, number>> {
  const { rows } = await countPostsToday(db, lists);
  return new Map(rows.map(({ list_id: id, count }) => [id, count]));
}

/** The note on a list that takes no mail any more, and which has taken its place. */
async function closedWords(db: Queries, listId: string): Promise<Closed> {
  const closedList = await findClosedList(db, listId);
  const successor =
    closedList === undefined ? undefined : await successorOf(db, closedList.successorKey);
  return {
    seasonOver: closedList === undefined || closedList.current ? undefined : closedList.label,
    now:
      successor === undefined
        ? undefined
        : { title: successor.title, address: `${successor.name}@${closedList?.listDomain ?? ""}` },
  };
}

/** The list of the current season that has taken the place of an older one. */
export async function successorOf(
  db: Queries,
  key: string,
): Promise<{ id: string; title: string; name: string } | undefined> {
  if (key === "") return undefined;
  const found = await findOpenList(db, key);
  return found;
}
