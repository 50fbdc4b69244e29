import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { startShelfHouse, type ShelfHouse } from "../../testing/shelfHouse";
import { RAVI, type Client } from "../../testing/testHouse";

let house: ShelfHouse;
let ravi: Client;
let basic = "";
beforeAll(async () => {
  house = await startShelfHouse();
  await house.coachTrapeze();
  ravi = await house.house.signIn(RAVI);
  const { body } = await ravi.ask<{ password: string }>("POST", "/api/account/mail-programs", {
    ...{ name: "Laptop", password: DEMO_PASSWORD, uses: ["shelves"] },
  });
  basic = `Basic ${Buffer.from(`${RAVI}:${body.password}`).toString("base64")}`;
  // Ravi leads Trapeze Two; of Juggling One he is only a member.
  const kept = { address: RAVI, side: "on", reason: "Helps out" };
  expect((await house.juno.ask("POST", `/api/lists/${house.juggling}/kept`, kept)).status).toBe(
    200,
  );
});
afterAll(() => house?.house.close());

async function ask(method: string, path: string, body?: string, headers = {}) {
  const response = await fetch(`${house.house.url}${path}`, {
    method,
    ...(body === undefined ? {} : { body }),
    headers: { Authorization: basic, ...headers },
  });
  return { status: response.status, text: await response.text() };
}
const namesIn = async (path: string): Promise<string[]> =>
  [
    ...(await ask("PROPFIND", path, undefined, { Depth: "1" })).text.matchAll(
      /<D:response><D:href>([^<]+)</g,
    ),
  ]
    .map(([, href = ""]) => decodeURIComponent(href))
    .slice(1);
const statusOf = async (...asked: Parameters<typeof ask>) => (await ask(...asked)).status;
const JUGGLING = "/shelves/Juggling%20One%2C%20guardians/";
const JUGGLING_NAME = "/shelves/Juggling One, guardians/";

describe("the shelf of a list that an account is only on", () => {
  test("isn't a folder as long as members may change and add nothing", async () => {
    await house.put("Plan.txt", "first", house.juggling);
    const names = await namesIn("/shelves/");
    expect(names).toContain("/shelves/Trapeze Two, guardians/");
    expect(names).not.toContain(JUGGLING_NAME);
    expect(await statusOf("GET", `${JUGGLING}Plan.txt`)).toBe(404);
  });

  test("lets members write what they may change, and nothing else", async () => {
    const [plan] = await house.shelf(house.juggling);
    const lists = [house.juggling];
    await house.put("Rules.txt", "read only", house.juggling);
    const body = { title: "Plan", folder: "", untilDay: "", membersMay: "change", lists };
    const { status } = await house.juno.ask("PUT", `/api/shelf/${plan?.id}`, {
      ...{ ...body, changes: plan?.changes },
    });
    expect(status).toBe(200);
    expect(await namesIn("/shelves/")).toContain(JUGGLING_NAME);
    expect((await namesIn(JUGGLING)).sort()).toEqual([
      `${JUGGLING_NAME}Plan.txt`,
      `${JUGGLING_NAME}Rules.txt`,
    ]);
    expect((await ask("GET", `${JUGGLING}Plan.txt`)).text).toBe("first");
    const details = await house.detailsOf(plan?.id ?? "");
    expect(details.openers.find(({ address }) => address === RAVI)?.openedAt).not.toBeNull();
    expect(await statusOf("PUT", `${JUGGLING}Plan.txt`, "second")).toBe(204);
    expect((await house.detailsOf(plan?.id ?? "")).versions).toMatchObject([
      { by: "Ravi Lindqvist" },
      { by: "Juno Abara" },
    ]);
    const lock =
      '<D:lockinfo xmlns:D="DAV:"><D:lockscope><D:exclusive/></D:lockscope></D:lockinfo>';
    for (const refused of [
      ["PUT", `${JUGGLING}Rules.txt`, "mine"],
      ["PUT", `${JUGGLING}New.txt`, "mine"],
      ["MKCOL", `${JUGGLING}Folder`],
      ["LOCK", `${JUGGLING}Rules.txt`, lock],
      ["LOCK", JUGGLING, lock],
      ["DELETE", `${JUGGLING}Plan.txt`],
      ["MOVE", `${JUGGLING}Plan.txt`, undefined, { Destination: `${JUGGLING}Plan%202.txt` }],
      ["COPY", `${JUGGLING}Plan.txt`, undefined, { Destination: `${JUGGLING}Plan%202.txt` }],
      ["COPY", `${JUGGLING}Plan.txt`, undefined, { Destination: `${JUGGLING}Rules.txt` }],
    ] as Parameters<typeof ask>[])
      expect([refused, await statusOf(...refused)]).toEqual([refused, 403]);
    expect((await ask("GET", `${JUGGLING}Rules.txt`)).text).toBe("read only");
  });

  test("takes files where members may add them, which are theirs to take off", async () => {
    const path = `/api/lists/${house.juggling}/shelf/open-to-members`;
    await house.juno.ask("PUT", path, { isOpenToMembers: true });
    expect(await statusOf("PUT", `${JUGGLING}Mine.txt`, "mine")).toBe(201);
    const shelf = await house.shelf(house.juggling);
    expect(shelf.find(({ title }) => title === "Mine")?.madeBy).toBe("Ravi Lindqvist");
    const Destination = `${JUGGLING}Better%20name.txt`;
    expect(await statusOf("MOVE", `${JUGGLING}Mine.txt`, undefined, { Destination })).toBe(201);
    expect(await statusOf("DELETE", `${JUGGLING}Better%20name.txt`)).toBe(204);
    expect(await statusOf("DELETE", `${JUGGLING}Rules.txt`)).toBe(403);
  });

  test("is no folder any more once they are off the list", async () => {
    await house.juno.ask("POST", `/api/lists/${house.juggling}/kept`, {
      ...{ address: RAVI, side: "off", reason: "Done" },
    });
    expect(await namesIn("/shelves/")).not.toContain(JUGGLING_NAME);
    expect(await statusOf("GET", `${JUGGLING}Plan.txt`)).toBe(404);
  });
});

describe("a private list's shelf", () => {
  test("is a folder of its owner's", async () => {
    const { body } = await ravi.ask<{ id: string }>("POST", "/api/private-lists", {
      ...{ name: "Drivers", people: [] },
    });
    expect(await namesIn("/shelves/")).toContain("/shelves/Drivers/");
    expect(await statusOf("MKCOL", "/shelves/Drivers/Maps")).toBe(201);
    expect(await statusOf("PUT", "/shelves/Drivers/Maps/north.txt", "N")).toBe(201);
    expect(await house.shelf(body.id, ravi)).toMatchObject([{ title: "north", folder: "Maps" }]);
    await ravi.ask("DELETE", `/api/private-lists/${body.id}`);
    expect(await statusOf("GET", "/shelves/Drivers/Maps/north.txt")).toBe(404);
  });
});
