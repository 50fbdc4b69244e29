import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { startShelfHouse, type ShelfHouse } from "../../testing/shelfHouse";
import { JUNO, ODILE, RAVI } from "../../testing/testHouse";

let house: ShelfHouse;
const basic = new Map<string, string>();
beforeAll(async () => {
  house = await startShelfHouse();
  for (const email of [JUNO, ODILE, RAVI]) basic.set(email, await passwordFor(email, ["shelves"]));
});
afterAll(() => house?.house.close());

async function passwordFor(email: string, uses: string[]): Promise<string> {
  const client = await house.house.signIn(email);
  const { body } = await client.ask<{ password: string }>("POST", "/api/account/mail-programs", {
    ...{ name: "Laptop", password: DEMO_PASSWORD, uses },
  });
  return `Basic ${Buffer.from(`${email}:${body.password}`).toString("base64")}`;
}
interface Asked {
  as?: string;
  body?: string;
  headers?: Record<string, string>;
}
async function ask(method: string, path: string, { as = JUNO, body, headers = {} }: Asked = {}) {
  const response = await fetch(`${house.house.url}${path}`, {
    method,
    redirect: "manual",
    ...(body === undefined ? {} : { body }),
    headers: { Authorization: basic.get(as) ?? "", ...headers },
  });
  return { status: response.status, headers: response.headers, text: await response.text() };
}
const TRAPEZE = "/shelves/Trapeze%20Two%2C%20guardians/";
const hrefsIn = (text: string): string[] =>
  [...text.matchAll(/<D:response><D:href>([^<]+)</g)].map(([, path = ""]) => path);
const listOf = async (path: string, as = JUNO): Promise<string[]> =>
  hrefsIn((await ask("PROPFIND", path, { as, headers: { Depth: "1" } })).text).slice(1);
const titles = async (): Promise<string[]> => (await house.shelf()).map(({ title }) => title);

describe("signing in", () => {
  test("takes a password that was made for shelves alone", async () => {
    const calendars = await passwordFor(JUNO, ["calendars"]);
    const asked = { headers: { Authorization: calendars, Depth: "0" } };
    expect((await ask("PROPFIND", "/shelves/", asked)).status).toBe(401);
    const forDav = { headers: { Authorization: basic.get(JUNO) ?? "", Depth: "0" } };
    expect((await ask("PROPFIND", "/dav/", forDav)).status).toBe(401);
    const none = { headers: { Authorization: "", Depth: "0" } };
    expect((await ask("PROPFIND", "/shelves/", none)).status).toBe(401);
    expect((await ask("OPTIONS", "/shelves/")).headers.get("dav")).toBe("1, 2, 3");
  });
});

describe("shelves as folders", () => {
  test("are those of the lists that the account looks after, with what is on them", async () => {
    await house.put("Plan.txt", "the plan");
    await house.put("Plan.txt", "another plan of the same name");
    const id = await house.put("Music.mp3", "music");
    await house.change(id, { folder: "Act 1: the loft" });
    expect(await listOf("/shelves/")).toContain(TRAPEZE);
    expect(await listOf("/shelves/", RAVI)).not.toContain(TRAPEZE);
    expect((await ask("PROPFIND", TRAPEZE, { as: RAVI, headers: { Depth: "0" } })).status).toBe(
      404,
    );
    // What no path holds is written otherwise; of two that are alike the second has a number.
    expect(await listOf(TRAPEZE)).toEqual([
      `${TRAPEZE}Act%201_%20the%20loft/`,
      `${TRAPEZE}Plan.txt`,
      `${TRAPEZE}Plan%20(2).txt`,
    ]);
    expect(await listOf(`${TRAPEZE}Act%201_%20the%20loft/`)).toEqual([
      `${TRAPEZE}Act%201_%20the%20loft/Music.mp3`,
    ]);
    const got = await ask("GET", `${TRAPEZE}Plan%20(2).txt`);
    expect([got.status, got.text]).toEqual([200, "another plan of the same name"]);
    const part = await ask("GET", `${TRAPEZE}Plan.txt`, { headers: { Range: "bytes=4-" } });
    expect([part.status, part.text]).toEqual([206, "plan"]);
    const deep = await ask("PROPFIND", "/shelves/", { headers: { Depth: "infinity" } });
    expect([deep.status, deep.text.includes("propfind-finite-depth")]).toEqual([403, true]);
    for (const path of ["../", "%2e%2e/", "%ff", "a/b/c/d", "None/"])
      expect((await ask("PROPFIND", `/shelves/${path}`, { headers: { Depth: "0" } })).status).toBe(
        404,
      );
  });

  test("take new files, and new versions of those that are there, for members at once", async () => {
    const path = `${TRAPEZE}Kit.txt`;
    expect((await ask("PUT", path, { body: "shoes" })).status).toBe(201);
    const oak = await house.memberOf("oak@oakmail.example");
    const id = (await house.shelf()).find(({ title }) => title === "Kit")?.id ?? "";
    expect(await (await house.open(id, oak)).text()).toBe("shoes");
    const { headers } = await ask("GET", path);
    const tag = headers.get("etag") ?? "";
    const changed = await ask("PUT", path, { body: "shoes, belt", headers: { "If-Match": tag } });
    expect(changed.status).toBe(204);
    const late = await ask("PUT", path, { body: "nothing", headers: { "If-Match": tag } });
    expect(late.status).toBe(412);
    const only = { body: "x", headers: { "If-None-Match": "*" } };
    expect((await ask("PUT", path, only)).status).toBe(412);
    expect(await (await house.open(id, oak)).text()).toBe("shoes, belt");
    expect((await house.detailsOf(id)).versions).toHaveLength(2);
    const odd = `${TRAPEZE}100%25%20%26%20more%3F.txt`;
    expect((await ask("PUT", odd, { body: "odd" })).status).toBe(201);
    // A question mark can't be in the names of files everywhere.
    expect(await listOf(TRAPEZE)).toContain(`${TRAPEZE}100%25%20%26%20more_.txt`);
    expect((await ask("GET", `${TRAPEZE}100%25%20%26%20more_.txt`)).text).toBe("odd");
    // Saved once more under its own name, it is the same file, and so is one whose name is too long.
    expect((await ask("PUT", odd, { body: "odd again" })).status).toBe(204);
    const long = `${TRAPEZE}${"sehr-lang-".repeat(20)}.txt`;
    expect((await ask("PUT", long, { body: "one" })).status).toBe(201);
    expect((await ask("PUT", long, { body: "two" })).status).toBe(204);
    expect((await ask("GET", long)).text).toBe("two");
    expect((await ask("PUT", `${TRAPEZE}No folder/x.txt`, { body: "x" })).status).toBe(409);
    expect((await ask("PUT", `${TRAPEZE}.hidden`, { body: "x" })).status).toBe(403);
    expect((await ask("PUT", TRAPEZE, { body: "x" })).status).toBe(405);
    expect((await ask("PUT", path, { as: RAVI, body: "x" })).status).toBe(409);
  });

  test("let files be moved, copied and taken off, and folders be made", async () => {
    expect((await ask("MKCOL", `${TRAPEZE}Papers`)).status).toBe(201);
    expect((await ask("MKCOL", `${TRAPEZE}Papers`)).status).toBe(405);
    expect((await ask("MKCOL", `${TRAPEZE}Papers/Deeper`)).status).toBe(403);
    await ask("PUT", `${TRAPEZE}draft.txt`, { body: "one" });
    const to = (path: string, more = {}) => ({ headers: { Destination: path, ...more } });
    const into = `${house.house.url}${TRAPEZE}Papers/final.txt`;
    expect((await ask("MOVE", `${TRAPEZE}draft.txt`, to(into))).status).toBe(201);
    expect((await house.shelf()).find(({ title }) => title === "final")).toMatchObject({
      folder: "Papers",
      name: "final.txt",
      version: 1,
    });
    const copy = `${TRAPEZE}copy.txt`;
    expect((await ask("COPY", `${TRAPEZE}Papers/final.txt`, to(copy))).status).toBe(201);
    await ask("PUT", copy, { body: "two" });
    const over = await ask("MOVE", copy, to(`${TRAPEZE}Papers/final.txt`, { Overwrite: "F" }));
    expect(over.status).toBe(412);
    // As programs save: a new file takes the place of the old one, whose versions stay.
    expect((await ask("MOVE", copy, to(`${TRAPEZE}Papers/final.txt`))).status).toBe(204);
    const final = (await house.shelf()).find(({ title }) => title === "final");
    expect(final?.version).toBe(2);
    expect(await titles()).not.toContain("copy");
    const across = "/shelves/Juggling%20One%2C%20guardians/final.txt";
    expect((await ask("MOVE", `${TRAPEZE}Papers/final.txt`, to(across))).status).toBe(201);
    expect((await house.shelf(house.juggling)).map(({ id }) => id)).toEqual([final?.id]);
    expect((await ask("MOVE", across, to("https://elsewhere.example/x"))).status).toBe(502);
    expect((await ask("MOVE", across, { ...to(TRAPEZE), as: ODILE })).status).toBe(404);
    await ask("PUT", `${TRAPEZE}Papers/a.txt`, { body: "a" });
    expect((await ask("MOVE", `${TRAPEZE}Papers`, to(`${TRAPEZE}Sheets`))).status).toBe(201);
    expect(await listOf(`${TRAPEZE}Sheets/`)).toEqual([`${TRAPEZE}Sheets/a.txt`]);
    expect((await ask("DELETE", `${TRAPEZE}Sheets`)).status).toBe(204);
    expect(await titles()).not.toContain("a");
    expect((await ask("DELETE", TRAPEZE)).status).toBe(403);
    expect((await ask("DELETE", "/shelves/")).status).toBe(403);
  });

  test("take no file that the list's rules don't allow, nor one that takes such a name", async () => {
    expect((await ask("PUT", `${TRAPEZE}setup.exe`, { body: "MZ" })).status).toBe(403);
    expect((await ask("PUT", `${TRAPEZE}setup.txt`, { body: "MZ" })).status).toBe(201);
    for (const method of ["MOVE", "COPY"]) {
      const headers = { Destination: `${TRAPEZE}setup.exe` };
      const { status, text } = await ask(method, `${TRAPEZE}setup.txt`, { headers });
      expect(status).toBe(403);
      expect(text).toContain("it takes any files but programs");
    }
    expect((await ask("DELETE", `${TRAPEZE}setup.txt`)).status).toBe(204);
  });

  test("set no properties, and say what there is for those who ask", async () => {
    const body = `<?xml version="1.0"?><D:propertyupdate xmlns:D="DAV:"><D:set><D:prop><D:displayname>x</D:displayname></D:prop></D:set></D:propertyupdate>`;
    const answer = await ask("PROPPATCH", TRAPEZE, { body });
    expect([answer.status, answer.text.includes("403 Forbidden")]).toEqual([207, true]);
    const room = `<?xml version="1.0"?><D:propfind xmlns:D="DAV:"><D:prop><D:quota-available-bytes/><D:nothing/></D:prop></D:propfind>`;
    const found = await ask("PROPFIND", TRAPEZE, { body: room, headers: { Depth: "0" } });
    expect(found.text).toMatch(/<D:quota-available-bytes>\d{6,}</);
    expect(found.text).toMatch(/<D:nothing\/>.*404 Not Found/);
    const entity = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e "y">]><D:propfind xmlns:D="DAV:"><D:prop>&e;</D:prop></D:propfind>`;
    const hostile = await ask("PROPFIND", TRAPEZE, { body: entity, headers: { Depth: "0" } });
    expect(hostile.status).toBe(400);
  });
});

describe("locks", () => {
  const INFO = `<?xml version="1.0"?><D:lockinfo xmlns:D="DAV:"><D:lockscope><D:exclusive/></D:lockscope><D:locktype><D:write/></D:locktype><D:owner>Juno's laptop</D:owner></D:lockinfo>`;

  test("keep others from writing until they end, and are told", async () => {
    const path = `${TRAPEZE}locked.txt`;
    const locked = await ask("LOCK", path, { body: INFO, headers: { Depth: "0" } });
    expect(locked.status).toBe(201);
    const token = locked.headers.get("lock-token") ?? "";
    expect(token).toMatch(/^<urn:uuid:/);
    // There is no file yet, and the name is reserved for whoever has the lock.
    expect((await ask("GET", path)).status).toBe(404);
    expect((await ask("PUT", path, { as: ODILE, body: "theirs" })).status).toBe(423);
    expect((await ask("PUT", path, { body: "without the token" })).status).toBe(423);
    const held = { If: `(${token})` };
    expect((await ask("PUT", path, { body: "ours", headers: held })).status).toBe(201);
    expect((await ask("LOCK", path, { as: ODILE, body: INFO })).status).toBe(423);
    const again = await ask("LOCK", path, { headers: held });
    expect([
      again.status,
      again.text.includes("Juno&#39;s laptop") || again.text.includes("Juno's laptop"),
    ]).toEqual([200, true]);
    expect((await ask("PROPFIND", path, { headers: { Depth: "0" } })).text).toContain(
      token.slice(1, -1),
    );
    const theirs = { as: ODILE, headers: { "Lock-Token": token } };
    expect((await ask("UNLOCK", path, theirs)).status).toBe(409);
    expect((await ask("UNLOCK", path, { headers: { "Lock-Token": token } })).status).toBe(204);
    expect((await ask("PUT", path, { as: ODILE, body: "theirs" })).status).toBe(204);
    expect((await ask("PUT", path, { body: "late", headers: held })).status).toBe(412);
  });

  test("of a folder hold all that is in it", async () => {
    await ask("MKCOL", `${TRAPEZE}Held`);
    const locked = await ask("LOCK", `${TRAPEZE}Held`, { body: INFO });
    const held = { If: `<${TRAPEZE}Held> (${locked.headers.get("lock-token")})` };
    expect((await ask("PUT", `${TRAPEZE}Held/a.txt`, { as: ODILE, body: "a" })).status).toBe(423);
    expect((await ask("PUT", `${TRAPEZE}Held/a.txt`, { body: "a", headers: held })).status).toBe(
      201,
    );
    expect((await ask("DELETE", `${TRAPEZE}Held`, { as: ODILE })).status).toBe(423);
    expect((await ask("DELETE", `${TRAPEZE}Held`, { headers: held })).status).toBe(204);
    expect((await ask("MKCOL", `${TRAPEZE}Held`, { as: ODILE })).status).toBe(201);
  });
});
