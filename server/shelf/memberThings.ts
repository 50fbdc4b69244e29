import type {
  deleteMemberComment,
  deleteMemberThing,
  getMemberThing,
  postMemberComment,
  postMemberFile,
  postMemberShelfLink,
  postMemberVersion,
  putMemberFollow,
} from "@amigo/contract/memberShelf";
import type { MayOpen } from "@amigo/core/shelf/mayOpen";
import { memberMay, type MembersMay } from "@amigo/core/shelf/membersMay";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { notFound, orRefuse, refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { noSuch, refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { memberAuthor } from "./author";
import { addVersion, receiveVersion } from "./changeThing";
import { emptyComment, listComments, listFollowers, storeFollowing } from "./commentQueries";
import { say, shownComment } from "./comments";
import { withinMemberLimit } from "./memberLimit";
import { mayAddressesOpen } from "./openers";
import { listListsOfThings } from "./placeQueries";
import { noteShelf, receiveFile, storeFile, storeLink } from "./putThings";
import {
  findAnyThing,
  isAddableBy,
  listVersions,
  lockThing,
  storeChange,
  type ThingRow,
} from "./queries";

/** Returns a thing that a member may open, or do more with. */
async function openable(
  db: Queries,
  id: string,
  member: string,
  wanted: MembersMay,
): Promise<ThingRow | Refused> {
  const row = await findAnyThing(db, id);
  if (row === undefined) return noSuch("thing");
  const found: MayOpen | undefined = (await mayAddressesOpen(db, row, [member], new Date())).get(
    member,
  );
  if (found?.may !== true) return noSuch("thing");
  const { membersMay, address } = row.thing;
  return memberMay(found, membersMay, wanted, address === member)
    ? row
    : refused(403, "shelf/not-allowed", t("shelf.membersMayOnlyOpenIt"));
}

/** Returns what is said about a thing, and who changed it when. */
export async function showMemberThing(
  { db }: Context,
  { params, member }: Request<typeof getMemberThing>,
): Promise<Answer<typeof getMemberThing>> {
  orRefuse(await openable(db, params.id, member, "view"));
  const followers = await listFollowers(db, params.id);
  return {
    comments: (await listComments(db, params.id)).map((row) =>
      shownComment(row, (address) => address === member),
    ),
    follows: followers.some(({ address }) => address === member),
    versions: (await listVersions(db, params.id)).map(({ number, by, at }) => ({
      ...{ number, by },
      at: at.toISOString(),
    })),
  };
}

/** Puts a member's file on the shelf of a list whose members may. */
export async function putMemberFile(
  context: Context,
  { query, member, http }: Request<typeof postMemberFile>,
): Promise<Answer<typeof postMemberFile>> {
  const { db } = context;
  refuse(await roomToAdd(context, query.list, member));
  const author = await memberAuthor(db, member);
  const { upload, name, list } = query;
  const blobId = orRefuse(
    await receiveFile(context, author, { upload, name, lists: [list] }, http),
  );
  const file = { blobId, name: query.name, folder: "" };
  return { id: (await storeFile(db, author, [query.list], file)).id };
}

/** Puts a member's link on the shelf of a list whose members may. */
export async function putMemberLink(
  context: Context,
  { body, member }: Request<typeof postMemberShelfLink>,
): Promise<Answer<typeof postMemberShelfLink>> {
  refuse(await roomToAdd(context, body.list, member));
  return {
    id: await storeLink(context.db, await memberAuthor(context.db, member), body.list, body),
  };
}

/** Puts a member's new version of a file that members may change. */
export async function putMemberVersion(
  context: Context,
  { params, query, member, http }: Request<typeof postMemberVersion>,
): Promise<Answer<typeof postMemberVersion>> {
  const { db } = context;
  const row = orRefuse(await openable(db, params.id, member, "change"));
  if (row.thing.kind !== "file") throw notFound("file");
  refuse(await withinMemberLimit(context.db, member));
  const author = await memberAuthor(db, member);
  const blobId = orRefuse(await receiveVersion(context, author, params.id, query, http));
  return orRefuse(await addVersion(db, author, params.id, { ...query, blobId }));
}

/** Takes off all shelves what a member put there. */
export async function takeMemberThingOff(
  { db }: Context,
  { params, member }: Request<typeof deleteMemberThing>,
): Promise<Answer<typeof deleteMemberThing>> {
  const row = orRefuse(await openable(db, params.id, member, "view"));
  if (row.thing.address !== member) throw notFound("thing");
  const author = await memberAuthor(db, member);
  await db.transaction(async (tx) => {
    await lockThing(tx, params.id);
    await storeChange(tx, params.id, { takenOffAt: new Date() });
    const lists = (await listListsOfThings(tx, [params.id])).map(({ id }) => id);
    const sentence = () => t("shelf.takenOff", { name: author.name, title: row.thing.title });
    await noteShelf(tx, author, lists, sentence);
  });
  return { done: true as const };
}

/** Says what a member has to say about a thing. */
export async function commentAsMember(
  context: Context,
  { params, body, member }: Request<typeof postMemberComment>,
): Promise<Answer<typeof postMemberComment>> {
  const row = orRefuse(await openable(context.db, params.id, member, "comment"));
  refuse(await withinMemberLimit(context.db, member));
  const author = await memberAuthor(context.db, member);
  await say(context, row, { ...author, email: member }, body);
  return { done: true as const };
}

/** Takes out what a member has said. */
export async function takeOwnCommentOut(
  { db }: Context,
  { params, member }: Request<typeof deleteMemberComment>,
): Promise<Answer<typeof deleteMemberComment>> {
  orRefuse(await openable(db, params.id, member, "view"));
  const theirs = (await listComments(db, params.id)).some(
    ({ id, address }) => id === params.comment && address === member,
  );
  const { name } = await memberAuthor(db, member);
  if (!theirs || !(await emptyComment(db, params.id, params.comment, name)))
    throw notFound("comment");
  await notify(db, "shelf");
  return { done: true as const };
}

/** Chooses whether a member is told by mail what others say about a thing. */
export async function followAsMember(
  { db }: Context,
  { params, body, member }: Request<typeof putMemberFollow>,
): Promise<Answer<typeof putMemberFollow>> {
  orRefuse(await openable(db, params.id, member, "view"));
  await storeFollowing(db, params.id, member, null, body.follows);
  return { done: true as const };
}

/** Refuses what a member may not add to a shelf, or not so much of. */
async function roomToAdd(
  context: Context,
  list: string,
  member: string,
): Promise<Refused | undefined> {
  if (!(await isAddableBy(context.db, list, member))) return noSuch("list");
  return withinMemberLimit(context.db, member);
}
