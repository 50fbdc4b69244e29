import { type postPicture, LARGEST_PICTURE, type deletePicture } from "@amigo/contract/house";
import type { Context } from "../context";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer, FileRequest } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { storePicture, removePictureRow } from "./queries";
import { housePicture } from "../posting/queries";

/** The kinds of pictures that browsers and mail programs show, by the octets with which a file of theirs starts. */
const KINDS: readonly { type: string; starts: (octets: Buffer) => boolean }[] = [
  {
    type: "image/png",
    starts: (octets) => octets.toString("latin1", 0, 8) === "\x89PNG\r\n\x1a\n",
  },
  { type: "image/jpeg", starts: (octets) => octets.toString("latin1", 0, 3) === "\xff\xd8\xff" },
  { type: "image/gif", starts: (octets) => /^GIF8[79]a$/.test(octets.toString("latin1", 0, 6)) },
];

/** Sets the picture of the school or club, for its sign-in page and sign-in mails. */
export async function changePicture(
  { db }: Context,
  { body: { file }, caller }: Request<typeof postPicture>,
): Promise<Answer<typeof postPicture>> {
  if (file.size > LARGEST_PICTURE)
    throw new Refusal(
      422,
      "picture/size",
      t("house.hasKbAPictureHas", {
        file: file.name,
        size: Math.ceil(file.size / 1024),
        most: LARGEST_PICTURE / 1024,
      }),
      "file",
    );
  const content = Buffer.from(await file.arrayBuffer());
  const kind = KINDS.find(({ starts }) => starts(content));
  if (kind === undefined)
    throw new Refusal(422, "picture/type", t("house.isNotAPngJpeg", { name: file.name }), "file");
  await db.transaction(async (tx) => {
    await storePicture(tx, kind.type, content);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change picture",
      sentence: () => t("house.setAPictureForThe", { name: caller.name }),
    });
  });
  return { done: true as const };
}

/** Removes the picture of the school or club. */
export async function removePicture(
  { db }: Context,
  { caller }: Request<typeof deletePicture>,
): Promise<Answer<typeof deletePicture>> {
  await db.transaction(async (tx) => {
    await removePictureRow(tx);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change picture",
      sentence: () => t("house.removedThePictureOfThe", { name: caller.name }),
    });
  });
  return { done: true as const };
}

/** Sends the picture of the school or club. */
export async function sendPicture(
  { db }: Context,
  http: FileRequest<"/api/house/picture">,
): Promise<Response> {
  const found = await housePicture(db);
  if (found === undefined) throw notFound("picture");
  return http.body(new Uint8Array(found.content), 200, {
    "Content-Type": found.type,
    "Cache-Control": "public, max-age=86400",
  });
}
