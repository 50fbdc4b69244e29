import { createHash, randomBytes } from "node:crypto";
import { request as httpRequest } from "node:http";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { sendDigests } from "../mail/digests";
import { proveBlobs } from "./proveBlobs";
import { removeLooseBlobs } from "./removeLooseBlobs";
import { dayFromNow, HEAD } from "../testing/datesHouse";
import { ELM, OAK, PINE, startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { ODILE, RAVI, until, type Client } from "../testing/testHouse";

let house: ShelfHouse;
let odile: Client;
let oak: Client;
beforeAll(async () => {
  house = await startShelfHouse();
  odile = await house.house.signIn(ODILE);
  oak = await house.memberOf("oak@oakmail.example");
});
afterAll(() => house?.house.close());

const trapeze = (): string => house.trapeze;
const juggling = (): string => house.juggling;
const url = (): string => house.house.url;
const memberOf: ShelfHouse["memberOf"] = (...parts) => house.memberOf(...parts);
const raw: ShelfHouse["raw"] = (...parts) => house.raw(...parts);
const put: ShelfHouse["put"] = (...parts) => house.put(...parts);
const open = (id: string, client: Client | undefined = oak, headers = {}): Promise<Response> =>
  house.open(id, client, headers);
const shelf: ShelfHouse["shelf"] = (...parts) => house.shelf(...parts);
const thingOf: ShelfHouse["thingOf"] = (...parts) => house.thingOf(...parts);
const detailsOf: ShelfHouse["detailsOf"] = (...parts) => house.detailsOf(...parts);
const change: ShelfHouse["change"] = (...parts) => house.change(...parts);
const mine = async (client = oak): Promise<string[]> =>
  (await client.ask<{ things: { title: string }[] }>("GET", "/api/member/shelf")).body.things.map(
    ({ title }) => title,
  );

/** Sets which kinds of files a list's shelf takes. */
const settle = (shelfKinds: string, list = house.trapeze) =>
  house.house.amigo.context.db.execute(
    sql`update list set rules = rules || ${JSON.stringify({ shelfKinds })}::jsonb where id = ${list}`,
  );

describe("a file on a list's shelf", () => {
  test("is opened by its members, without an account, and those who lead see who has", async () => {
    const id = await put("Costume_sheet.png", "not really a picture");
    expect(await thingOf(id)).toMatchObject({
      title: "Costume sheet",
      name: "Costume_sheet.png",
      size: 20,
      mayOpen: 2,
      opened: 0,
    });
    expect(await mine()).toContain("Costume sheet");
    const got = await open(id);
    expect([got.status, await got.text()]).toEqual([200, "not really a picture"]);
    expect(got.headers.get("content-type")).toBe("image/png");
    expect(got.headers.get("content-disposition")).toMatch(/^inline;/);
    expect(await thingOf(id)).toMatchObject({ mayOpen: 2, opened: 1 });
    const { openers } = await detailsOf(id);
    expect(openers.map(({ address, openedAt }) => [address, openedAt !== null])).toEqual([
      ["elm@oakmail.example", false],
      ["oak@oakmail.example", true],
    ]);
    // The day is the school's, as people write it.
    expect(openers.map(({ why }) => why)).toEqual(
      openers.map(() => expect.stringMatching(/^On Trapeze Two, guardians since \d+ \w+ \d{4}\.$/)),
    );
  });

  test("that could run in a browser is only saved, and may do nothing", async () => {
    await settle("any");
    for (const name of ["page.html", "drawing.svg", "script.js", "paper.pdf.exe"]) {
      const got = await open(await put(name, "<script>alert(1)</script>"));
      expect(got.headers.get("content-type")).toBe("application/octet-stream");
      expect(got.headers.get("content-disposition")).toMatch(/^attachment;/);
      expect(got.headers.get("content-security-policy")).toBe(
        "default-src 'none'; frame-ancestors 'self'; sandbox",
      );
      expect(got.headers.get("x-content-type-options")).toBe("nosniff");
    }
    const page = await open(await put("paper.pdf", "%PDF-1.4"));
    expect(page.headers.get("content-type")).toBe("application/pdf");
    // A browser's own viewer doesn't run in a sandbox; nothing else may be fetched or framed.
    expect(page.headers.get("content-security-policy")).toBe(
      "default-src 'none'; frame-ancestors 'self'",
    );
    const named = await open(await put('a"\r\nX-Evil: 1\u202Egnp.exe'));
    expect(named.headers.get("x-evil")).toBeNull();
    await settle("no programs");
  });

  test("isn't there for strangers, other lists' members, or whoever sees only other lists", async () => {
    const id = await put("secret.txt");
    const pine = await memberOf("pine@oakmail.example");
    expect((await open(id, pine)).status).toBe(404);
    expect(await mine(pine)).not.toContain("secret");
    expect((await open(id, house.house.client())).headers.get("location")).toBe(
      `/member/shelf/${id}`,
    );
    expect((await open("not-an-id")).status).toBe(404);
    expect((await open(crypto.randomUUID())).status).toBe(404);
    const ravi = await house.house.signIn(RAVI);
    expect((await ravi.ask("GET", `/api/shelf/${id}`)).status).toBe(404);
    expect((await raw("GET", `/api/shelf/${id}/files/1`, ravi)).status).toBe(404);
    expect((await raw("GET", `/api/shelf/${id}/files/1`, oak)).status).toBe(401);
    expect((await ravi.ask("GET", `/api/lists/${trapeze()}/shelf`)).status).toBe(404);
    expect(await put("x.txt", "x", trapeze(), ravi)).toBe("404");
    expect(await put("x.txt", "x", juggling(), odile)).toBe("404");
    expect(await change(id, {}, ravi)).toBe(404);
    expect((await ravi.ask("DELETE", `/api/shelf/${id}?list=${trapeze()}`)).status).toBe(404);
  });

  test("ends for whoever leaves at that moment, and is there again when they come back", async () => {
    const id = await put("handout.txt");
    const elm = await memberOf("elm@oakmail.example");
    expect((await open(id, elm)).status).toBe(200);
    const read = (...rows: string[]) =>
      house.house.readLines(house.juno, [HEAD, ...rows], { id: house.source });
    await read(OAK, PINE);
    await house.house.step(house.juno);
    expect((await open(id, elm)).status).toBe(404);
    expect(await mine(elm)).not.toContain("handout");
    expect((await detailsOf(id)).former).toMatchObject([
      { address: "elm@oakmail.example", why: "Left the list." },
    ]);
    expect(await thingOf(id)).toMatchObject({ mayOpen: 1, opened: 0 });
    await read(OAK, ELM, PINE);
    await house.house.step(house.juno);
    expect((await open(id, elm)).status).toBe(200);
  });

  test.each([
    ["Budget 2026.27.ods", "Budget 2026.27", "Budget 2026.27.ods"],
    ["Elternabend_Protokoll.v2.mp3", "Elternabend Protokoll.v2", "Elternabend_Protokoll.v2.mp3"],
    ["Plan 3.12", "Plan 3.12", "Plan 3.12"],
    [`${"Sehr langer Name ".repeat(9)}.mp3`, "", /Name Sehr .*\.mp3$/],
  ])("called %s keeps its ending, and is titled without it", async (name, title, kept) => {
    const thing = await thingOf(await put(name));
    expect(thing?.name).toMatch(kept);
    expect(thing?.name.length).toBeLessThanOrEqual(120);
    if (title !== "") expect(thing?.title).toBe(title);
  });

  test("ends with its last day, and when it is taken off", async () => {
    const id = await put("until.txt");
    expect(await change(id, { untilDay: dayFromNow(1) })).toBe(200);
    expect((await open(id)).status).toBe(200);
    expect(await change(id, { untilDay: dayFromNow(-2) })).toBe(200);
    expect((await open(id)).status).toBe(404);
    expect(await thingOf(id)).toMatchObject({ isOver: true, mayOpen: 0 });
    expect(await change(id, { untilDay: "" })).toBe(200);
    expect((await open(id)).status).toBe(200);
    expect((await house.juno.ask("DELETE", `/api/shelf/${id}?list=${trapeze()}`)).status).toBe(200);
    expect((await open(id)).status).toBe(404);
    expect(await thingOf(id)).toBeUndefined();
  });

  test("is on several lists' shelves, and is kept once", async () => {
    const id = await put("consent form.txt");
    expect(await change(id, { lists: [trapeze(), juggling()] })).toBe(200);
    const pine = await memberOf("pine@oakmail.example");
    expect((await open(id, pine)).status).toBe(200);
    expect(await thingOf(id)).toMatchObject({ mayOpen: 3, opened: 1 });
    // Who looks after one of its lists sees and keeps to that one.
    const [seen] = (await shelf(trapeze(), odile)).filter((thing) => thing.id === id);
    expect(seen?.others).toEqual([]);
    expect((await detailsOf(id, odile)).openers.map(({ address }) => address)).not.toContain(
      "pine@oakmail.example",
    );
    expect(await change(id, { lists: [trapeze()] }, odile)).toBe(200);
    expect((await open(id, pine)).status).toBe(200);
    expect((await house.juno.ask("DELETE", `/api/shelf/${id}?list=${trapeze()}`)).status).toBe(200);
    expect((await open(id, pine)).status).toBe(200);
    expect((await open(id)).status).toBe(404);
  });

  test("changed by two at once is changed by the first; the second is told", async () => {
    const id = await put("plan.txt");
    const seen = await thingOf(id);
    expect(await change(id, { title: "Plan A" })).toBe(200);
    expect(await change(id, { title: "Plan B", changes: seen?.changes })).toBe(409);
    expect((await thingOf(id))?.title).toBe("Plan A");
  });
});

describe("versions", () => {
  const newVersion = async (id: string, body: string, seen: number) => {
    const path = `/api/shelf/${id}/versions?name=plan.txt&version=${seen}`;
    const response = await raw("POST", path, house.juno, body);
    return (await response.json()) as { version: number; besideAnother: boolean };
  };

  test("keep the one before; two who change a file at once keep both, and the second is told", async () => {
    const id = await put("plan.txt", "first");
    expect(await newVersion(id, "second", 1)).toEqual({ version: 2, besideAnother: false });
    expect(await newVersion(id, "third", 1)).toEqual({ version: 3, besideAnother: true });
    expect(await (await open(id)).text()).toBe("third");
    const { versions } = await detailsOf(id);
    expect(versions.map(({ number, checksum }) => [number, checksum])).toEqual(
      ["third", "second", "first"].map((text, at) => [
        3 - at,
        createHash("sha256").update(text).digest("hex"),
      ]),
    );
    const restored = await house.juno.ask("POST", `/api/shelf/${id}/restore`, { version: 1 });
    expect(restored.status).toBe(200);
    expect(await (await open(id)).text()).toBe("first");
    expect(await (await raw("GET", `/api/shelf/${id}/files/2`, house.juno)).text()).toBe("second");
    expect((await house.juno.ask("POST", `/api/shelf/${id}/restore`, { version: 9 })).status).toBe(
      404,
    );
    // A new one after a restored one is the fourth, not another second.
    expect(await newVersion(id, "fourth", 1)).toEqual({ version: 4, besideAnother: false });
  });
});

describe("a link", () => {
  test("leads on for members alone, and says that it is one", async () => {
    const make = (link: string) =>
      house.juno.ask<{ id: string }>("POST", `/api/lists/${trapeze()}/shelf/links`, {
        title: "Photos",
        link,
      });
    expect((await make("javascript:alert(1)")).status).toBe(400);
    const { body } = await make("https://photos.brightpost.example/show");
    expect((await thingOf(body.id))?.kind).toBe("link");
    const got = await open(body.id);
    expect([got.status, got.headers.get("location")]).toEqual([
      302,
      "https://photos.brightpost.example/show",
    ]);
    expect((await open(body.id, house.house.client())).headers.get("location")).toMatch(
      /^\/member\/shelf\//,
    );
  });
});

describe("what is new", () => {
  test("is told to the members by a mail with links, once for one key, and nothing is attached", async () => {
    const ids = [await put("Map of the hall.txt"), await put("Rota.txt")];
    const key = crypto.randomUUID();
    const tell = () =>
      house.juno.ask<{ addresses: number; outcome: string }>(
        "POST",
        `/api/lists/${trapeze()}/shelf/notice`,
        { things: ids, text: "For Saturday.", key },
      );
    expect((await tell()).body).toEqual({ addresses: 2, outcome: "goes out" });
    expect((await tell()).body.addresses).toBe(2);
    const letter = await house.house.mailTo("oak@oakmail.example", "New on the shelf");
    expect(letter).toContain("New on the shelf: Map of the hall and 1 more");
    for (const id of ids) expect(letter.replace(/=\r?\n/g, "")).toContain(`/member/shelf/${id}`);
    expect(letter).toContain("For Saturday.");
    expect(letter).not.toContain("Content-Disposition: attachment");
    const ravi = await house.house.signIn(RAVI);
    expect(
      (
        await ravi.ask("POST", `/api/lists/${trapeze()}/shelf/notice`, {
          things: ids,
          key: crypto.randomUUID(),
        })
      ).status,
    ).toBe(404);
  });

  test("is brought to mind by mail to those who haven't opened it, twice a day at most", async () => {
    const id = await put("Consent.txt");
    expect((await open(id)).status).toBe(200);
    const remind = (client = house.juno) =>
      client.ask<{ addresses: number }>("POST", `/api/shelf/${id}/remind`);
    expect((await remind()).body).toEqual({ addresses: 1 });
    const letter = await house.house.mailTo("elm@oakmail.example", "Still to open: Consent");
    expect(letter).toContain(`/member/shelf/${id}`);
    expect((await remind()).status).toBe(200);
    expect((await remind()).status).toBe(429);
    expect((await remind(await house.house.signIn(RAVI))).status).toBe(404);
    const reminded = house.house.sink.mails.filter(({ raw }) => raw.includes("Still to open"));
    expect(new Set(reminded.flatMap(({ to }) => to))).toEqual(new Set(["elm@oakmail.example"]));
    expect((await open(id, await memberOf("elm@oakmail.example"))).status).toBe(200);
    expect((await remind()).body).toEqual({ addresses: 0 });
  });

  test("waits for everybody's next digest, where it is wanted so", async () => {
    const id = await put("Parking.txt");
    const { db, settings } = house.house.amigo.context;
    const told = await house.juno.ask<{ addresses: number }>(
      "POST",
      `/api/lists/${trapeze()}/shelf/notice`,
      { things: [id], text: "", when: "next digest", key: crypto.randomUUID() },
    );
    expect(told.body.addresses).toBe(2);
    const letters = () =>
      house.house.sink.mails.filter(({ raw }) => raw.includes("New on the shelf: Parking"));
    await db.execute(sql`update digest_item set at = now() - interval '2 days'`);
    expect(letters()).toEqual([]);
    const late = new Date(Date.now() + 86_400_000);
    late.setUTCHours(21);
    expect(await sendDigests({ db, settings }, late)).toBe(2);
    await until("the digests", letters, (found) => found.length === 2);
    expect(letters()[0]?.raw).toContain(`/member/shelf/${id}`);
  });
});

describe("a welcome", () => {
  test("names what is on the shelf for whoever comes, and nothing that is over", async () => {
    await put("Welcome paper.txt", "x", juggling());
    const over = await put("Old paper.txt", "x", juggling());
    const thing = (await shelf(juggling())).find(({ id }) => id === over);
    await house.juno.ask("PUT", `/api/shelf/${over}`, {
      ...thing,
      lists: [juggling()],
      untilDay: dayFromNow(-2),
    });
    const { body } = await house.juno.ask<{ text: string }>("POST", "/api/welcome/preview", {
      list: juggling(),
      text: "Hello. {shelf}",
      as: "",
    });
    expect(body.text).toMatch(/Welcome paper\r?\n {2}http.*\/member\/shelf\//);
    expect(body.text).not.toContain("Old paper");
  });
});

describe("octets", () => {
  const count = async (): Promise<{ blobs: number; parts: number }> => {
    const { rows } = await house.house.amigo.context.db.execute<{ blobs: number; parts: number }>(
      sql`select (select count(*) from blob)::int as blobs, (select count(*) from blob_part)::int as parts`,
    );
    return rows[0] ?? { blobs: -1, parts: -1 };
  };

  test("of several megabytes come back as they went, whole or in parts", async () => {
    const bytes = new Uint8Array(randomBytes(3 * 1024 * 1024 + 17));
    const id = await put("film.mp4", bytes);
    const whole = await open(id);
    expect(whole.headers.get("content-length")).toBe(String(bytes.length));
    expect(Buffer.compare(Buffer.from(await whole.arrayBuffer()), Buffer.from(bytes))).toBe(0);
    for (const [range, first, last] of [
      ["bytes=0-9", 0, 9],
      ["bytes=1048570-1048590", 1048570, 1048590],
      ["bytes=3145720-", 3145720, bytes.length - 1],
      ["bytes=-5", bytes.length - 5, bytes.length - 1],
    ] as const) {
      const part = await open(id, oak, { Range: range });
      expect(part.status).toBe(206);
      expect(part.headers.get("content-range")).toBe(`bytes ${first}-${last}/${bytes.length}`);
      expect(Buffer.from(await part.arrayBuffer())).toEqual(
        Buffer.from(bytes.slice(first, last + 1)),
      );
    }
    expect((await open(id, oak, { Range: "bytes=99999999-" })).status).toBe(416);
  });

  test("that are the same are kept once; an empty file is one, too", async () => {
    const before = await count();
    const ids = [await put("one.txt", "the same"), await put("other.txt", "the same")];
    expect(await count()).toEqual({ blobs: before.blobs + 1, parts: before.parts + 1 });
    for (const id of ids) expect(await (await open(id)).text()).toBe("the same");
    const empty = await open(await put("empty.txt", ""));
    expect([empty.status, await empty.text()]).toEqual([200, ""]);
  });

  test("of more than all shelves may have are refused before any of them is kept", async () => {
    const before = await count();
    const { settings } = house.house.amigo.context;
    const most = settings.shelfGigabytes;
    settings.shelfGigabytes = 0.001;
    try {
      expect(await put("large.bin", new Uint8Array(1_100_000))).toBe("413");
      expect(await count()).toEqual(before);
    } finally {
      settings.shelfGigabytes = most;
    }
  });

  test("that break off leave nothing behind", async () => {
    const before = await count();
    await new Promise<void>((resolve) => {
      const request = httpRequest(`${url()}/api/lists/${trapeze()}/shelf/files?name=broken.bin`, {
        method: "POST",
        headers: {
          Cookie: house.juno.cookie,
          Origin: url(),
          "Content-Length": String(8 * 1024 * 1024),
        },
      });
      request.on("error", () => resolve());
      request.write(randomBytes(6 * 1024 * 1024 + 5), () => {
        void until("a part of it", count, ({ parts }) => parts > before.parts).then(() =>
          request.destroy(),
        );
      });
    });
    await until("nothing of it", count, ({ blobs, parts }) => {
      return blobs === before.blobs && parts === before.parts;
    });
    expect((await shelf()).map(({ name }) => name)).not.toContain("broken.bin");
  });

  test("are compared with their checksum; what is damaged is told, and healed by the same file", async () => {
    const { db, log } = house.house.amigo.context;
    const id = await put("music.mp3", "the same music");
    const other = await put("sound.mp3", "another sound");
    const damage = (text: string) =>
      db.execute(
        sql`update blob_part set content = ${Buffer.from(text)} where blob_id = (select blob_id from shelf_version where thing_id = ${id})`,
      );
    const monthLater = () =>
      db.execute(sql`update blob set made_at = now() - interval '40 days', proved_at = null`);
    await monthLater();
    await proveBlobs({ db, objects: undefined, log });
    expect(await thingOf(id)).toMatchObject({ isDamaged: false });
    // It was looked at just now, and isn't again for a month.
    await damage("other octets!!");
    await proveBlobs({ db, objects: undefined, log });
    expect(await thingOf(id)).toMatchObject({ isDamaged: false });
    await monthLater();
    await proveBlobs({ db, objects: undefined, log });
    expect(await thingOf(id)).toMatchObject({ isDamaged: true });
    expect(await thingOf(other)).toMatchObject({ isDamaged: false });
    await put("again.mp3", "the same music");
    expect(await thingOf(id)).toMatchObject({ isDamaged: false });
    expect(await (await open(id)).text()).toBe("the same music");
  });

  test("that nothing has any more are removed after a day, and nothing else", async () => {
    const { db } = house.house.amigo.context;
    await removeLooseBlobs(house.house.amigo.context);
    const id = await put("kept.txt", "kept for good");
    await db.execute(
      sql`insert into blob (hash, made_at) values ('left', now() - interval '2 days'), (null, now() - interval '2 days'), ('new', now())`,
    );
    await db.execute(sql`update blob set made_at = now() - interval '9 days' where hash <> 'new'`);
    expect(await removeLooseBlobs(house.house.amigo.context)).toBe(2);
    expect(await (await open(id)).text()).toBe("kept for good");
  });
});

describe("kinds of files", () => {
  test("that the list's rules don't allow are refused before they are read, and programs by default", async () => {
    expect(await house.put("setup.exe")).toBe("422");
    const song = await house.put("song.mp3");
    const path = `/api/lists/${house.trapeze}/shelf/files?name=tool.exe`;
    const response = await house.raw("POST", path, house.juno, "MZ");
    expect(((await response.json()) as { detail: string }).detail).toBe(
      '"tool.exe" can\'t be on the shelf of Trapeze Two, guardians: by its rules, it takes any files but programs.',
    );
    await settle("pictures and documents");
    expect(await house.put("film.mp4")).toBe("422");
    const paper = await house.put("paper.pdf");
    const version = `/api/shelf/${paper}/versions?name=paper.mp3&version=1`;
    expect((await house.raw("POST", version, house.juno, "sound")).status).toBe(422);
    // What is there stays, but doesn't come onto another shelf that is as strict.
    await settle("pictures and documents", house.juggling);
    const lists = [house.trapeze, house.juggling];
    expect(await house.change(song, { lists })).toBe(422);
    expect(await house.change(paper, { lists })).toBe(200);
    await settle("any");
    expect(await house.put("setup.exe")).toMatch(/-/);
  });
});
