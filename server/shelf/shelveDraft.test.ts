import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { RAVI, type Answer, type Client } from "../testing/testHouse";

interface Shelved {
  things: { id: string; title: string; link: string }[];
}

let house: ShelfHouse;
beforeAll(async () => {
  house = await startShelfHouse();
});
afterAll(() => house?.house.close());

/** Begins a mail to some lists with a file, and returns the ids of both. */
async function draftTo(lists: readonly string[], client: Client = house.juno) {
  const id = randomUUID();
  const to = lists.map((list) => ({ kind: "list", id: list, name: "" }));
  await client.ask("PUT", `/api/drafts/${id}`, { to, cc: [], bcc: [], subject: "Photos" });
  const form = new FormData();
  form.set("file", new File(["many photos"], "photos.txt", { type: "text/plain" }));
  form.set("inline", "no");
  const { body } = await client.ask<{ id: string }>("POST", `/api/drafts/${id}/files`, form);
  return { id, file: body.id };
}
const shelve = (id: string, body: object, client = house.juno): Promise<Answer<Shelved>> =>
  client.ask<Shelved>("POST", `/api/drafts/${id}/shelve`, body);

describe("files of a mail that go on the shelf instead", () => {
  test("stand there for all its lists, once, with a link, and no longer on the draft", async () => {
    const { id, file } = await draftTo([house.trapeze, house.juggling]);
    const { status, body } = await shelve(id, { files: [file] });
    expect(status).toBe(200);
    const [thing] = body.things;
    expect(thing?.link).toBe(`${house.house.url}/member/shelf/${thing?.id}`);
    const draft = await house.juno.ask<{ files: unknown[] }>("GET", `/api/drafts/${id}`);
    expect(draft.body.files).toEqual([]);
    expect((await house.thingOf(thing?.id ?? ""))?.others).toHaveLength(1);
    for (const address of ["oak@oakmail.example", "pine@oakmail.example"]) {
      const member = await house.memberOf(address);
      expect(await (await house.open(thing?.id ?? "", member)).text()).toBe("many photos");
    }
  });

  test("may be those that no mail can carry, which have come piece by piece", async () => {
    const { id } = await draftTo([house.trapeze]);
    const bytes = new Uint8Array(20 * 1024 * 1024).fill(7);
    const upload = await house.juno.ask<{ id: string }>("POST", "/api/uploads", {
      size: bytes.length,
    });
    const path = `/api/uploads/${upload.body.id}?at=0`;
    expect((await house.raw("PUT", path, house.juno, bytes)).status).toBe(200);
    const { body } = await shelve(id, { uploads: [{ id: upload.body.id, name: "film.mp4" }] });
    expect(await house.thingOf(body.things[0]?.id ?? "")).toMatchObject({
      name: "film.mp4",
      size: bytes.length,
    });
  });

  test("stay where they are if none of its lists is theirs, or the draft is another's", async () => {
    const ravi = await house.house.signIn(RAVI);
    const { id, file } = await draftTo([house.juggling], ravi);
    const refused = await shelve(id, { files: [file] }, ravi);
    expect(refused).toMatchObject({
      status: 422,
      body: { type: "urn:amigo:fault:draft/no-shelf" },
    });
    expect((await shelve(id, { files: [file] })).status).toBe(404);
    const draft = await ravi.ask<{ files: unknown[] }>("GET", `/api/drafts/${id}`);
    expect(draft.body.files).toHaveLength(1);
  });
});
