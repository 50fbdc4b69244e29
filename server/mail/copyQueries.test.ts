import { randomBytes } from "node:crypto";
import { eq } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import { message } from "../db/schema/posts";
import { storeMessage } from "../posting/acceptPost";
import { startTestHouse, type TestHouse } from "../testing/testHouse";
import { findMessages } from "./copyQueries";

let house: TestHouse;
beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
});
afterAll(() => house.close());

test("messages of every size come to the octet, and one that was removed is empty", async () => {
  const { db } = house.amigo.context;
  const sizes = [0, 1, 256 * 1024 - 1, 256 * 1024, 256 * 1024 + 1, 3 * 1024 * 1024];
  const raws = sizes.map((size, at) =>
    Buffer.concat([Buffer.from(`Subject: ${at}\r\n\r\n`), randomBytes(size)]),
  );
  const ids: string[] = [];
  for (const [at, raw] of raws.entries())
    ids.push(await storeMessage(db, raw, `<${at}@copperwheel.example>`));
  const found = await findMessages(db, [...ids, crypto.randomUUID()]);
  expect(found.size).toBe(raws.length);
  for (const [at, id] of ids.entries())
    expect(Buffer.compare(found.get(id)?.raw ?? Buffer.alloc(0), raws[at] ?? Buffer.alloc(0))).toBe(
      0,
    );
  const [large = ""] = ids.slice(-1);
  await db
    .update(message)
    .set({ raw: Buffer.alloc(0) })
    .where(eq(message.id, large));
  expect((await findMessages(db, [large])).get(large)?.raw).toHaveLength(0);
});
