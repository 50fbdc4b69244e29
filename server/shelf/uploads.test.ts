import { createHash, randomBytes } from "node:crypto";
import { request as httpRequest } from "node:http";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { ODILE, until, type Client } from "../testing/testHouse";

const MB = 1024 * 1024;
let house: ShelfHouse;
let oak: Client;
beforeAll(async () => {
  house = await startShelfHouse();
  oak = await house.memberOf("oak@oakmail.example");
});
afterAll(() => house?.house.close());

type Octets = Uint8Array<ArrayBuffer>;
const bytesOf = (length: number): Octets => new Uint8Array(randomBytes(length));
const begin = async (size: number, client = house.juno): Promise<string> =>
  (await client.ask<{ id: string }>("POST", "/api/uploads", { size })).body.id;
const piece = async (id: string, at: number, body: Octets, client = house.juno) => {
  const response = await house.raw("PUT", `/api/uploads/${id}?at=${at}`, client, body);
  return {
    status: response.status,
    body: (await response.json()) as { received?: number; type?: string },
  };
};
const received = async (id: string): Promise<number> =>
  (await house.juno.ask<{ received: number }>("GET", `/api/uploads/${id}`)).body.received;
const use = (id: string, name = "film.mp4", client = house.juno) =>
  house.raw(
    "POST",
    `/api/lists/${house.trapeze}/shelf/files?name=${name}&upload=${id}`,
    client,
    "",
  );
const contentOf = async (thing: string): Promise<Buffer> =>
  Buffer.from(await (await house.open(thing, oak)).arrayBuffer());

describe("a file that comes piece by piece", () => {
  test("is the same file, whatever the pieces are, and has its checksum", async () => {
    const lengths = fc.array(fc.integer({ min: 1, max: 3 * MB }), { minLength: 1, maxLength: 4 });
    await fc.assert(
      fc.asyncProperty(lengths, fc.integer({ min: 1, max: 5 * MB }), async (pieces, size) => {
        const bytes = bytesOf(size);
        const id = await begin(size);
        let at = 0;
        for (let turn = 0; at < size; turn++) {
          // The last piece is always all that is left, so that it ends.
          const length = pieces[turn] ?? size;
          const { status, body } = await piece(id, at, bytes.slice(at, at + length));
          expect(status).toBe(200);
          // Only whole megabytes count, and the end.
          at = body.received ?? -1;
          expect(at === size || at % MB === 0).toBe(true);
        }
        const { id: thing } = (await (await use(id)).json()) as { id: string };
        expect(Buffer.compare(await contentOf(thing), Buffer.from(bytes))).toBe(0);
        const { versions } = await house.detailsOf(thing);
        expect(versions[0]?.checksum).toBe(createHash("sha256").update(bytes).digest("hex"));
      }),
      { numRuns: 12 },
    );
  });

  test("goes on where it was after the connection broke", async () => {
    const bytes = bytesOf(7 * MB + 5);
    const id = await begin(bytes.length);
    await new Promise<void>((resolve) => {
      const request = httpRequest(`${house.house.url}/api/uploads/${id}?at=0`, {
        method: "PUT",
        headers: {
          Cookie: house.juno.cookie,
          Origin: house.house.url,
          "Content-Length": String(bytes.length),
        },
      });
      request.on("error", () => resolve());
      request.write(bytes.slice(0, 5 * MB + 17), () => {
        void until(
          "a part of it",
          () => received(id),
          (octets) => octets > 0,
        ).then(() => request.destroy());
      });
    });
    const there = await until(
      "what had come",
      () => received(id),
      (octets) => octets >= 5 * MB,
    );
    expect(there).toBe(5 * MB);
    expect((await use(id)).status).toBe(409);
    expect((await piece(id, there, bytes.slice(there))).body.received).toBe(bytes.length);
    const { id: thing } = (await (await use(id)).json()) as { id: string };
    expect(Buffer.compare(await contentOf(thing), Buffer.from(bytes))).toBe(0);
  });

  test("takes no piece that doesn't follow, none that is too long, and nobody else's", async () => {
    const bytes = bytesOf(2 * MB);
    const id = await begin(bytes.length);
    expect(await piece(id, MB, bytes.slice(MB))).toMatchObject({
      status: 409,
      body: { type: "urn:amigo:fault:upload/elsewhere" },
    });
    const odile = await house.house.signIn(ODILE);
    expect((await piece(id, 0, bytes, odile)).status).toBe(404);
    expect((await odile.ask("GET", `/api/uploads/${id}`)).status).toBe(404);
    expect((await oak.ask("GET", `/api/member/uploads/${id}`)).status).toBe(404);
    expect((await use(id, "x.mp4", odile)).status).toBe(404);
    expect((await piece(id, 0, bytesOf(2 * MB + 1))).status).toBe(413);
    const there = await received(id);
    expect((await piece(id, there, bytes.slice(there))).body.received).toBe(bytes.length);
    expect((await use(id)).status).toBe(200);
    // Once it is on a shelf, it is gone from here.
    expect((await use(id)).status).toBe(404);
  });

  test("of two pages at once is taken from one of them", async () => {
    const bytes = bytesOf(3 * MB);
    const id = await begin(bytes.length);
    const both = await Promise.all([piece(id, 0, bytes), piece(id, 0, bytes)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { id: thing } = (await (await use(id)).json()) as { id: string };
    expect(Buffer.compare(await contentOf(thing), Buffer.from(bytes))).toBe(0);
  });

  test("is begun only by members who may put it somewhere, and not too many at once", async () => {
    const ask = () => oak.ask<{ id: string }>("POST", "/api/member/uploads", { size: 5 });
    expect((await ask()).status).toBe(403);
    const id = await house.put("plan.txt");
    await house.change(id, { membersMay: "change" });
    const begun = await ask();
    expect(begun.status).toBe(200);
    const path = `/api/member/uploads/${begun.body.id}`;
    const sent = await house.raw("PUT", `${path}?at=0`, oak, new Uint8Array([1, 2, 3, 4, 5]));
    expect(sent.status).toBe(200);
    const put = `/api/member/shelf/${id}/versions?name=plan.bin&version=1&upload=${begun.body.id}`;
    expect((await house.raw("POST", put, oak, "")).status).toBe(200);
    expect(await contentOf(id)).toEqual(Buffer.from([1, 2, 3, 4, 5]));
    const statuses: number[] = [];
    for (let count = 0; count < 12; count++) statuses.push((await ask()).status);
    expect(statuses.filter((status) => status === 200)).toHaveLength(10);
    expect(statuses.at(-1)).toBe(429);
  });

  test("counts as all that it will have, so that several can't pass the limit together", async () => {
    const { settings } = house.house.amigo.context;
    const most = settings.shelfGigabytes;
    settings.shelfGigabytes = 2;
    try {
      expect(await begin(1_200_000_000)).toMatch(/^[0-9a-f-]{36}$/);
      const refused = await house.juno.ask<{ type: string }>("POST", "/api/uploads", {
        size: 1_200_000_000,
      });
      expect([refused.status, refused.body.type]).toEqual([413, "urn:amigo:fault:shelf/full"]);
      // Many at one instant count each other, too.
      const odile = await house.house.signIn(ODILE);
      const size = 150_000_000;
      const many = await Promise.all(
        Array.from({ length: 8 }, () => odile.ask("POST", "/api/uploads", { size })),
      );
      expect(many.filter(({ status }) => status === 200).length).toBeLessThanOrEqual(5);
      expect(many.filter(({ status }) => status === 413).length).toBeGreaterThanOrEqual(3);
    } finally {
      settings.shelfGigabytes = most;
    }
  });
});
