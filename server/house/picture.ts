import { sql } from "drizzle-orm";
import type { Hono } from "hono";
import { deletePicture, LARGEST_PICTURE, postPicture } from "@amigo/contract/house";
import type { Context } from "../context";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { housePicture } from "../posting/housePicture";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { picture } from "../db/schema/house";

/** The kinds of pictures that browsers and mail programs show, by the octets with which a file of theirs starts. */
const KINDS: readonly { type: string; starts: (octets: Buffer) => boolean }[] = [
  {
    type: "image/png",
    starts: (octets) => octets.toString("latin1", 0, 8) === "\x89PNG\r\n\x1a\n",
  },
  { type: "image/jpeg", starts: (octets) => octets.toString("latin1", 0, 3) === "\xff\xd8\xff" },
  { type: "image/gif", starts: (octets) => /^GIF8[79]a$/.test(octets.toString("latin1", 0, 6)) },
];

/** Setting, removing and showing the picture of the house. Anybody can see it: it stands on the sign-in page. */
export function pictureRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, postPicture, async ({ body: { file }, caller }) => {
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
    const values = { type: kind.type, content, changedAt: sql`now()` };
    await db.transaction(async (tx) => {
      await tx
        .insert(picture)
        .values(values)
        .onConflictDoUpdate({ target: picture.id, set: values });
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change picture",
        sentence: t("house.setAPictureForThe", { name: caller.name }),
      });
    });
    return { done: true as const };
  });

  route(app, context, deletePicture, async ({ caller }) => {
    await db.transaction(async (tx) => {
      await tx.delete(picture);
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change picture",
        sentence: t("house.removedThePictureOfThe", { name: caller.name }),
      });
    });
    return { done: true as const };
  });

  app.get("/api/house/picture", async (http) => {
    const found = await housePicture(db);
    if (found === undefined) throw notFound("picture");
    return http.body(new Uint8Array(found.content), 200, {
      "Content-Type": found.type,
      "Cache-Control": "public, max-age=86400",
    });
  });
}
