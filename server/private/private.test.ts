import { authenticate } from "mailauth";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { PrivateListLine, PrivateListPage } from "@amigo/contract/private";
import type { PostPage } from "@amigo/contract/posts";
import { openZone } from "../testing/openZone";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;
let ravi: Client;

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const IDA =
  "CW-1,Brandt,Ida,Mill Loft,Trapeze Two,Ravi Lindqvist,Halim Brandt,halim@oakmail.example";
const WREN =
  "CW-2,Eastlake,Wren,Big Barn,Juggling One,Teo Bramwell,Tove Eastlake,tove@lettr.example";
let source = "";

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  ravi = await house.signIn(RAVI);
  ({ source } = await house.readLines(juno, [HEAD, IDA, WREN], { name: "Roster" }));
  await house.step(juno);
});
afterAll(() => house.close());

const hits = async (client: Client, q: string): Promise<string[]> =>
  (await client.ask<{ name: string }[]>("GET", `/api/person-hits?q=${q}`)).body.map(
    ({ name }) => name,
  );
const idOf = async (client: Client, q: string): Promise<string> =>
  (await client.ask<{ id: string }[]>("GET", `/api/person-hits?q=${q}`)).body[0]?.id ?? "";

describe("private lists", () => {
  let id = "";

  test("whoever is on the staff finds whom they may know of: a coach their own class's families and the staff", async () => {
    expect(await hits(juno, "tove")).toEqual(["Tove Eastlake"]);
    expect(await hits(ravi, "tove")).toEqual([]);
    expect(await hits(ravi, "halim")).toEqual(["Halim Brandt"]);
    expect(await hits(ravi, "marta")).toEqual(["Marta Okonjo"]);
  });

  test("one is made, renamed, filled, and seen by its owner alone", async () => {
    const made = await ravi.ask<{ id: string }>("POST", "/api/private-lists", {
      name: "Van",
      people: [await idOf(ravi, "halim"), await idOf(juno, "tove"), "nobody"],
    });
    id = made.body.id;
    const { body } = await ravi.ask<PrivateListPage>("PUT", `/api/private-lists/${id}`, {
      name: "Van helpers",
      add: [await idOf(ravi, "marta")],
    });
    expect([body.name, body.persons.map(({ name }) => name)]).toEqual([
      "Van helpers",
      ["Halim Brandt", "Marta Okonjo"],
    ]);
    expect(
      (await ravi.ask<{ detail: string }>("POST", "/api/private-lists", { name: "van HELPERS" }))
        .status,
    ).toBe(409);
    expect(
      (await juno.ask<PrivateListLine[]>("GET", "/api/private-lists")).body.map(({ name }) => name),
    ).toEqual(["Rigging crew"]);
    for (const [method, path] of [
      ["GET", `/api/private-lists/${id}`],
      ["DELETE", `/api/private-lists/${id}`],
    ] as const)
      expect((await juno.ask(method, path)).status).toBe(404);
    expect((await juno.ask("PUT", `/api/private-lists/${id}`, { name: "Mine" })).status).toBe(404);
    expect(
      (await juno.ask("POST", "/api/posts/reckon", { lists: [], privately: [id] })).status,
    ).toBe(404);
    expect((await juno.ask<unknown[]>("GET", "/api/find?q=helpers")).body).toEqual([]);
    expect((await juno.ask<unknown[]>("GET", "/api/lists?q=helpers")).body).toEqual([]);
  });

  test("its owner writes to it: a copy to each that names no list and nobody else, seen in Mail by the owner alone", async () => {
    expect(
      (await ravi.ask("POST", "/api/posts/reckon", { lists: [], privately: [id] })).body,
    ).toMatchObject({ addresses: 2, refused: [] });
    const { body: sent } = await ravi.ask<{ id: string; addresses: number }>("POST", "/api/posts", {
      lists: [],
      privately: [id],
      subject: "The van",
      text: "Who drives?",
      key: crypto.randomUUID(),
    });
    expect(sent.addresses).toBe(2);
    const copy = await house.mailTo("halim@oakmail.example", "Subject: The van");
    expect(copy).not.toMatch(/List-|marta|Van helpers/i);
    // From the school's own mail domain, so that it can be signed; answers go to him.
    expect(copy).toContain(
      "From: Ravi Lindqvist via Copperwheel Circus School <postmaster@lists.copperwheel.example>",
    );
    expect(copy).toContain(`Reply-To: Ravi Lindqvist <${RAVI}>`);
    const mail = house.sink.mails.find(({ to }) => to === "halim@oakmail.example");
    const { dkim } = await authenticate(Buffer.from(mail?.raw ?? "", "latin1"), {
      ...{ ip: "127.0.0.1", helo: "x", sender: "", disableArc: true, disableBimi: true },
      resolver: openZone(house),
    });
    expect(dkim.results.map(({ status }) => status.result)).toEqual(["pass"]);
    expect(mail?.from).toMatch(/^mail\+b\.[0-9a-f]{32}@lists\.copperwheel\.example$/);
    await until(
      "both copies",
      () => house.sink.mails.filter(({ raw }) => raw.includes("The van")),
      (mails) => mails.length === 2,
    );
    expect(
      (await ravi.ask<PostPage>("GET", `/api/posts/${sent.id}`)).body.recipients.map(
        ({ address }) => address,
      ),
    ).toEqual(["halim@oakmail.example", "marta.okonjo@copperwheel.example"]);
    expect((await juno.ask("GET", `/api/posts/${sent.id}`)).status).toBe(404);
  });

  test("beside a list nobody gets two copies, and others who see the post do not see who was written to privately", async () => {
    const { body: lists } = await ravi.ask<{ id: string }[]>(
      "GET",
      "/api/lists?q=trapeze two guardians",
    );
    const { body: sent } = await ravi.ask<{ id: string; addresses: number }>("POST", "/api/posts", {
      lists: [lists[0]?.id ?? ""],
      privately: [id],
      subject: "Both ways",
      text: "One copy.",
      key: crypto.randomUUID(),
    });
    expect(sent.addresses).toBe(2);
    expect(
      (await juno.ask<PostPage>("GET", `/api/posts/${sent.id}`)).body.recipients.map(
        ({ address }) => address,
      ),
    ).toEqual(["halim@oakmail.example"]);
  });

  test("it tells how many of its people are no longer here, and writes to the others", async () => {
    await house.readLines(juno, [HEAD, WREN], { id: source });
    await house.step(juno);
    expect((await ravi.ask<PrivateListLine[]>("GET", "/api/private-lists")).body).toEqual([
      { id, name: "Van helpers", people: 2, gone: 1 },
    ]);
    const { body } = await ravi.ask<PrivateListPage>("GET", `/api/private-lists/${id}`);
    expect(body.persons.find(({ gone }) => gone)).toMatchObject({
      name: "Halim Brandt",
      detail: "no longer here",
      addresses: [],
    });
    expect(
      (await ravi.ask("POST", "/api/posts/reckon", { lists: [], privately: [id] })).body,
    ).toMatchObject({ addresses: 1 });
    expect((await ravi.ask("DELETE", `/api/private-lists/${id}`)).status).toBe(200);
    expect(
      (
        await ravi.ask("POST", "/api/posts", {
          lists: [],
          privately: [],
          subject: "x",
          text: "x",
          key: crypto.randomUUID(),
        })
      ).status,
    ).toBe(400);
  });
});
