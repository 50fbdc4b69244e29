import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";

export async function wanted(db: Queries): Promise<(typeof house.$inferSelect)["twoStep"]> {
  const [own] = await db.select({ twoStep: house.twoStep }).from(house);
  return own?.twoStep ?? "nobody";
}
