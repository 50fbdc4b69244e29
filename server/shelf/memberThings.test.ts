import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { MemberThing } from "@amigo/contract/memberShelf";
import type { ShelfComment } from "@amigo/contract/shelf";
import { HEAD } from "../testing/datesHouse";
import { OAK, PINE, startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { JUNO, RAVI, type Client } from "../testing/testHouse";

let house: ShelfHouse;
let oak: Client;
let elm: Client;
let pine: Client;
beforeAll(async () => {
  house = await startShelfHouse();
  oak = await house.memberOf("oak@oakmail.example");
  elm = await house.memberOf("elm@oakmail.example");
  pine = await house.memberOf("pine@oakmail.example");
});
afterAll(() => house?.house.close());

const say = (id: string, text: string, client: Client, follow = false) =>
  client.ask("POST", `/api/member/shelf/${id}/comments`, { text, follow });
const talkOf = async (id: string, client: Client) =>
  (
    await client.ask<{
      comments: ShelfComment[];
      follows: boolean;
      versions: { number: number; by: string }[];
    }>("GET", `/api/member/shelf/${id}`)
  ).body;
const mine = async (client: Client): Promise<MemberThing[]> =>
  (await client.ask<{ things: MemberThing[] }>("GET", "/api/member/shelf")).body.things;
const newVersion = (id: string, body: string, client: Client, seen = 1): Promise<Response> =>
  house.raw("POST", `/api/member/shelf/${id}/versions?name=plan.txt&version=${seen}`, client, body);
const commentable = async (name: string, membersMay = "comment"): Promise<string> => {
  const id = await house.put(name);
  expect(await house.change(id, { membersMay })).toBe(200);
  return id;
};

describe("comments", () => {
  test("stand beside a thing in order, with names as the school has them", async () => {
    const id = await commentable("plan.txt");
    expect((await say(id, "Is the belt needed?", oak)).status).toBe(200);
    const ask = house.juno.ask("POST", `/api/shelf/${id}/comments`, { text: "From level 3." });
    expect((await ask).status).toBe(200);
    const { comments } = await talkOf(id, elm);
    expect(comments.map(({ name, text }) => [name, text])).toEqual([
      ["Robin Oak", "Is the belt needed?"],
      ["Juno Abara", "From level 3."],
    ]);
    expect((await mine(elm)).find((thing) => thing.id === id)?.comments).toBe(2);
    expect((await house.thingOf(id))?.comments).toBe(2);
  });

  test("are refused where members may only open it, from others, and where they are empty", async () => {
    const id = await house.put("only to read.txt");
    expect((await say(id, "May I?", oak)).status).toBe(403);
    expect((await mine(oak)).find((thing) => thing.id === id)).toMatchObject({
      mayComment: false,
      mayChange: false,
    });
    const other = await commentable("other.txt");
    expect((await say(other, "I am on another list.", pine)).status).toBe(404);
    expect((await pine.ask("GET", `/api/member/shelf/${other}`)).status).toBe(404);
    expect((await say(other, "   ", oak)).status).toBe(400);
    const ravi = await house.house.signIn(RAVI);
    expect((await ravi.ask("POST", `/api/shelf/${other}/comments`, { text: "x" })).status).toBe(
      404,
    );
  });

  test("are taken out by their writer or whoever leads, and that they were there stays", async () => {
    const id = await commentable("taken out.txt");
    await say(id, "Wrong place", oak);
    await say(id, "Rude words", elm);
    await say(id, "Sorry.", elm);
    const [first, second, third] = (await talkOf(id, oak)).comments;
    expect([first?.mayTakeOut, second?.mayTakeOut]).toEqual([true, false]);
    const path = `/api/member/shelf/${id}/comments`;
    expect((await oak.ask("DELETE", `${path}/${second?.id}`)).status).toBe(404);
    expect((await oak.ask("DELETE", `${path}/${first?.id}`)).status).toBe(200);
    const lead = await house.juno.ask("DELETE", `/api/shelf/${id}/comments/${second?.id}`);
    expect(lead.status).toBe(200);
    expect((await elm.ask("DELETE", `${path}/${third?.id}`)).status).toBe(200);
    expect(
      (await talkOf(id, oak)).comments.map(({ text, takenOutBy }) => [text, takenOutBy]),
    ).toEqual([
      ["", "Robin Oak"],
      ["", "Juno Abara"],
      ["", "Robin Elm"],
    ]);
    expect((await house.thingOf(id))?.comments).toBe(0);
  });

  test("are told by mail to those who chose it, and to nobody who has left or said them", async () => {
    const id = await commentable("told.txt");
    await say(id, "Who brings chalk?", oak, true);
    await house.juno.ask("PUT", `/api/shelf/${id}/follow`, { follows: true });
    expect(await talkOf(id, oak)).toMatchObject({ follows: true });
    await say(id, "I do.\r\nBcc: x@y.example", elm);
    const letter = await house.house.mailTo("oak@oakmail.example", "Robin Elm on told");
    expect(letter).toContain("  I do.");
    expect(letter).toContain(`/member/shelf/${id}`);
    expect((await house.house.mailTo(JUNO, "Robin Elm on told")).replaceAll("=3D", "=")).toContain(
      `/lists/${house.trapeze}?tab=shelf`,
    );
    await oak.ask("PUT", `/api/member/shelf/${id}/follow`, { follows: false });
    await say(id, "Two sticks.", elm);
    await house.house.mailTo(JUNO, "Two sticks.");
    const toOak = house.house.sink.mails.filter(
      ({ to, raw }) => to.includes("oak@oakmail.example") && raw.includes("Two sticks"),
    );
    expect(toOak).toEqual([]);
  });
});

describe("what members may change", () => {
  test("is changed by a new version, with who did; two at once keep both", async () => {
    const id = await commentable("lifts.txt", "change");
    expect((await newVersion(id, "Oak: 2 seats", oak)).status).toBe(200);
    const beside = (await (await newVersion(id, "Elm: 1 seat", elm)).json()) as unknown;
    expect(beside).toEqual({ version: 3, besideAnother: true });
    expect(await (await house.open(id, oak)).text()).toBe("Elm: 1 seat");
    const { versions } = await talkOf(id, oak);
    expect(versions.map(({ number, by }) => [number, by])).toEqual([
      [3, "Robin Elm"],
      [2, "Robin Oak"],
      [1, "Juno Abara"],
    ]);
  });

  test("isn't changed where they may only comment, nor by members of other lists", async () => {
    const id = await commentable("rules.txt");
    expect((await newVersion(id, "No rules", oak)).status).toBe(403);
    expect((await newVersion(id, "No rules", pine)).status).toBe(404);
    expect(await (await house.open(id, oak)).text()).toBe("This is rules.txt");
  });
});

describe("what members add themselves", () => {
  const add = (client: Client, name = "photo.jpg", list = house.trapeze): Promise<Response> =>
    house.raw("POST", `/api/member/shelf/files?list=${list}&name=${name}`, client, "a picture");
  const openTo = (isOpenToMembers: boolean) =>
    house.juno.ask("PUT", `/api/lists/${house.trapeze}/shelf/open-to-members`, { isOpenToMembers });

  test("is there for all of a list whose shelf is open to them, and is theirs to take off", async () => {
    expect((await add(oak)).status).toBe(404);
    expect((await openTo(true)).status).toBe(200);
    const { body } = await oak.ask<{ mayAddTo: { id: string }[] }>("GET", "/api/member/shelf");
    expect(body.mayAddTo.map(({ id }) => id)).toEqual([house.trapeze]);
    expect((await add(pine)).status).toBe(404);
    const { id } = (await (await add(oak)).json()) as { id: string };
    expect((await mine(elm)).find((thing) => thing.id === id)).toMatchObject({
      madeBy: "Robin Oak",
      isTheirs: false,
    });
    expect((await elm.ask("DELETE", `/api/member/shelf/${id}`)).status).toBe(404);
    // Whoever put it there may do all with it, though members may only open it.
    expect((await newVersion(id, "a better picture", oak)).status).toBe(200);
    expect((await oak.ask("DELETE", `/api/member/shelf/${id}`)).status).toBe(200);
    expect((await house.open(id, elm)).status).toBe(404);
    const link = { list: house.trapeze, title: "Map", link: "https://maps.brightpost.example/" };
    expect((await oak.ask("POST", "/api/member/shelf/links", link)).status).toBe(200);
    await openTo(false);
    expect((await add(oak)).status).toBe(404);
    expect((await oak.ask("POST", "/api/member/shelf/links", link)).status).toBe(404);
  });

  test("stays for the others when they leave, who may do nothing with it any more", async () => {
    await openTo(true);
    const { id } = (await (await add(elm, "left.jpg")).json()) as { id: string };
    const read = [HEAD, OAK, PINE];
    await house.house.readLines(house.juno, read, { id: house.source });
    await house.house.step(house.juno);
    expect((await house.open(id, oak)).status).toBe(200);
    expect((await newVersion(id, "still mine?", elm)).status).toBe(404);
    expect((await elm.ask("DELETE", `/api/member/shelf/${id}`)).status).toBe(404);
  });
});

describe("the data of somebody who is removed", () => {
  test("lists what they shared and said, and removing it leaves no trace", async () => {
    await house.juno.ask("PUT", `/api/lists/${house.trapeze}/shelf/open-to-members`, {
      isOpenToMembers: false,
    });
    const left = await house.juno.ask<{ id: string; name: string }[]>(
      "GET",
      "/api/people/left?q=elm",
    );
    const guardian = left.body.find(({ name }) => name === "Robin Elm");
    const record = await house.juno.ask<{
      comments: { text: string }[];
      sharedFiles: { file: string }[];
    }>("GET", `/api/people/${guardian?.id}/record`);
    expect(record.body.comments.map(({ text }) => text)).toContain("Two sticks.");
    expect(record.body.sharedFiles.map(({ file }) => file)).toContain("left.jpg");
    const ours = (await house.shelf()).length;
    const forgotten = await house.juno.ask("POST", `/api/people/${guardian?.id}/forget`, {
      name: "Robin Elm",
    });
    expect(forgotten.status).toBe(200);
    const things = await house.shelf();
    // What they put there themselves is gone; what others did stays, with the version of theirs that holds.
    expect(things.length).toBe(ours - 1);
    const everything = JSON.stringify(
      await Promise.all(things.map(({ id }) => house.detailsOf(id))),
    );
    for (const trace of ["Robin Elm", "Two sticks.", "elm@oakmail.example"])
      expect(everything).not.toContain(trace);
    const { rows } = await house.house.amigo.context.db.execute(
      sql`select sentence from journal where sentence like '%Robin Elm%' or actor = 'Robin Elm' union all select name from shelf_comment where concat(name, content, taken_out_by) like '%Robin Elm%'`,
    );
    expect(rows).toEqual([]);
    expect(everything).toContain("Who brings chalk?");
    const lifts = things.find(({ title }) => title === "lifts");
    expect(await (await house.open(lifts?.id ?? "", oak)).text()).toBe("Elm: 1 seat");
  });
});
