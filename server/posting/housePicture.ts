import type { Queries } from "../db/connect";
import { picture } from "../db/schema/house";

/** Returns the picture of the house and its type, undefined where it has none. */
export async function housePicture(
  db: Queries,
): Promise<{ type: string; content: Buffer } | undefined> {
  const [found] = await db.select({ type: picture.type, content: picture.content }).from(picture);
  return found;
}
