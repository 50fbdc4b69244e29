import { createHash, type Hash } from "node:crypto";
import type {
  getMemberUpload,
  getUpload,
  postMemberUpload,
  postUpload,
  putMemberPiece,
  putPiece,
} from "@amigo/contract/uploads";
import { memberMay } from "@amigo/core/shelf/membersMay";
import type { Context } from "../context";
import type { Database, Queries } from "../db/connect";
import { inTransaction } from "../db/inTransaction";
import { orRefuse, refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { noSuch, refused, Refused } from "../refused";
import { t } from "../texts/t";
import { admit, type Admitting } from "./admit";
import { asAuthor, type Author } from "./author";
import { storeBlobRow, type Keeping } from "./blobQueries";
import { finish, hashOf, type StoredBlob } from "./blobs";
import { bodyOf } from "./bodyOf";
import { openableBy } from "./openers";
import { inParts, PART, writerOf, type Written } from "./parts";
import { listAddable } from "./queries";
import { roomFor } from "./roomFor";
import {
  countParts,
  countUploads,
  findUpload,
  removeUpload,
  storeUpload,
  waitForUploads,
  type UploadRow,
} from "./uploadQueries";

/** The requests by which a file is begun, gone on with and asked after, by accounts and by members. */
type Begin = Request<typeof postUpload | typeof postMemberUpload>;
type Find = Request<typeof getUpload | typeof getMemberUpload>;
type Add = Request<typeof putPiece | typeof putMemberPiece>;
type Received = Answer<typeof postUpload>;

/**
 * What is known of the checksums of files that come, each as far as a number of octets. It is in this process alone: where another
 * one takes a piece, the checksum is worked out from what is kept.
 */
const hashes = new Map<string, { hash: Hash; octets: number }>();
const MOST_HASHES = 200;
/** How many files somebody may have under way. */
const MOST_UNDER_WAY = 10;

/** Begins to take a file piece by piece, where there is room for all of it. */
export async function beginUpload(context: Context, { body, ...by }: Begin): Promise<Received> {
  const { db, settings, objects } = context;
  const author = authorOf(by);
  const id = await inTransaction(db, async (tx) => {
    // One after the other: of many that begin at once, only as many may as there is room for.
    await waitForUploads(tx);
    const refusal =
      (await mayBegin(tx, author)) ?? (await roomFor({ db: tx, settings }, body.size));
    return refusal ?? storeUpload(tx, author, await storeBlobRow(tx, objects), body.size);
  });
  return { id: orRefuse(id), received: 0 };
}

/**
 * Refuses a file from a member who may neither change nor add anything, and one of somebody who has many others under way: what is
 * begun counts as room that is taken until it ends.
 */
async function mayBegin(db: Queries, author: Author): Promise<Refused | undefined> {
  const { address } = author;
  if (address !== null && !(await mayShare(db, address)))
    return refused(403, "shelf/not-allowed", t("shelf.membersMayOnlyOpenIt"));
  return (await countUploads(db, author)) >= MOST_UNDER_WAY
    ? refused(429, "upload/too-many", t("shelf.tooManyUnderWay", { most: MOST_UNDER_WAY }))
    : undefined;
}

/** Whether a member may put a file anywhere: a new one on a shelf, or a new version of one. */
async function mayShare(db: Queries, address: string): Promise<boolean> {
  if ((await listAddable(db, address)).length > 0) return true;
  const things = await openableBy(db, address, new Date());
  return things.some(({ row: { thing }, may }) =>
    memberMay(may, thing.membersMay, "change", thing.address === address),
  );
}

/** Returns how much of a file has come. */
export async function showUpload({ db }: Context, { params, ...by }: Find): Promise<Received> {
  const { id, received } = orRefuse(await theirUpload(db, authorOf(by), params.id));
  return { id, received };
}

/** Takes the next piece of a file. Where it breaks off, what came of it counts in whole parts. */
export async function addPiece(context: Context, request: Add): Promise<Received> {
  const { db } = context;
  const { params, query, http } = request;
  const author = authorOf(request);
  const found = orRefuse(await theirUpload(db, author, params.id));
  if (query.at !== found.received) refuse(goOnElsewhere());
  await takeParts(context, found, bodyOf(context, http));
  const { id, received } = orRefuse(await theirUpload(db, author, params.id));
  return { id, received };
}

/** Returns what a file that came piece by piece is kept as; refused where it hasn't all come, or isn't admitted. */
export async function finishUpload(
  context: Admitting,
  of: Author,
  id: string,
): Promise<StoredBlob | Refused> {
  const { db } = context;
  const found = await theirUpload(db, of, id);
  if (found instanceof Refused) return found;
  const { blobId, size, received } = found;
  if (received !== size) return refused(409, "upload/unfinished", t("shelf.notAllHasCome"), "file");
  const refusal = await admit(context, { id: blobId, size });
  if (refusal !== undefined) return refusal;
  const known = hashes.get(id);
  hashes.delete(id);
  const hash =
    known?.octets === size ? known.hash.digest("hex") : await hashOf(context, { id: blobId, size });
  const stored = await finish(context, blobId, hash, size);
  await removeUpload(db, id);
  return stored;
}

async function takeParts(
  keeping: Keeping,
  { id, blobId, size, received, parts }: UploadRow,
  stream: AsyncIterable<Uint8Array>,
): Promise<void> {
  const onWritten: Written = async (tx, group) => {
    if (!(await countParts(tx, id, group))) refuse(goOnElsewhere());
  };
  const writer = writerOf(keeping, blobId, parts, onWritten);
  const known = received === 0 ? { hash: createHash("sha256"), octets: 0 } : hashes.get(id);
  hashes.delete(id);
  let octets = received;
  try {
    for await (const part of inParts(stream)) {
      if (octets + part.length > size)
        refuse(refused(413, "upload/too-much", t("shelf.moreHasCome"), "file"));
      // A part that isn't full is the file's last one, or came of a piece that broke off.
      if (part.length < PART && octets + part.length < size) break;
      octets += part.length;
      if (known?.octets === octets - part.length) {
        known.hash.update(part);
        known.octets = octets;
      }
      await writer.add(part);
    }
  } finally {
    await writer.end();
  }
  if (known?.octets === octets) remember(id, known);
}

function remember(id: string, known: { hash: Hash; octets: number }): void {
  const [oldest] = hashes.keys();
  if (oldest !== undefined && hashes.size >= MOST_HASHES) hashes.delete(oldest);
  hashes.set(id, known);
}

async function theirUpload(db: Database, of: Author, id: string): Promise<UploadRow | Refused> {
  return (await findUpload(db, of, id)) ?? noSuch("file");
}

/** The piece doesn't follow on what has come: another page sends the same file, or one was lost. */
function goOnElsewhere(): Refused {
  return refused(409, "upload/elsewhere", t("shelf.goOnElsewhere"), "at");
}

function authorOf({ caller, member }: Pick<Begin, "caller" | "member">): Author {
  return member === "" ? asAuthor(caller) : { name: "", accountId: null, address: member };
}
