import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { MemberThing } from "@amigo/contract/memberShelf";
import { ELM, PINE, startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { HEAD } from "../testing/datesHouse";
import { RAVI, type Client } from "../testing/testHouse";

let house: ShelfHouse;
let ravi: Client;
let oak: Client;
let elm: Client;
let list = "";

beforeAll(async () => {
  house = await startShelfHouse();
  await house.coachTrapeze();
  ravi = await house.house.signIn(RAVI);
  oak = await house.memberOf("oak@oakmail.example");
  elm = await house.memberOf("elm@oakmail.example");
  const people = [await personOf(ravi, "ida oak")];
  const made = await ravi.ask<{ id: string }>("POST", "/api/private-lists", {
    name: "Costume parents",
    people,
  });
  list = made.body.id;
});
afterAll(() => house?.house.close());

async function personOf(client: Client, q: string): Promise<string> {
  const { body } = await client.ask<{ id: string }[]>("GET", `/api/person-hits?q=${q}`);
  return body[0]?.id ?? "";
}
const mine = async (client: Client): Promise<MemberThing[]> =>
  (await client.ask<{ things: MemberThing[] }>("GET", "/api/member/shelf")).body.things;
const titlesOf = async (client: Client) => (await mine(client)).map(({ title }) => title);

describe("the shelf of a private list", () => {
  test("is seen by its owner alone, and open to those on it, who learn of no list", async () => {
    const id = await house.put("Sizes.txt", "S, M, L", list, ravi);
    expect((await house.shelf(list, ravi)).map(({ title }) => title)).toEqual(["Sizes"]);
    expect((await house.juno.ask("GET", `/api/lists/${list}/shelf`)).status).toBe(404);
    expect((await house.juno.ask("GET", `/api/shelf/${id}`)).status).toBe(404);
    expect(await house.put("Mine.txt", "no", list, house.juno)).toBe("404");
    expect(await mine(oak)).toMatchObject([{ title: "Sizes", list: "Ravi Lindqvist" }]);
    expect(JSON.stringify(await mine(oak))).not.toContain("Costume");
    expect(await mine(elm)).toEqual([]);
    expect((await house.open(id, oak)).status).toBe(200);
    expect((await house.open(id, elm)).status).toBe(404);
    const { openers } = await house.detailsOf(id, ravi);
    expect(openers).toMatchObject([{ address: "oak@oakmail.example", name: "Robin Oak" }]);
    expect(openers[0]?.openedAt).not.toBeNull();
    const journal = await house.juno.ask("GET", "/api/journal");
    expect(JSON.stringify(journal.body)).not.toContain("Sizes");
  });

  test("opens for whoever is put on it, and closes for whoever is taken off, at that moment", async () => {
    const person = await personOf(ravi, "bram elm");
    await ravi.ask("PUT", `/api/private-lists/${list}`, { add: [person] });
    expect(await titlesOf(elm)).toEqual(["Sizes"]);
    await ravi.ask("PUT", `/api/private-lists/${list}`, { remove: [person] });
    expect(await titlesOf(elm)).toEqual([]);
  });

  test("tells those on it by a mail that names no list", async () => {
    const [thing] = await house.shelf(list, ravi);
    const { body } = await ravi.ask("POST", `/api/lists/${list}/shelf/notice`, {
      ...{ things: [thing?.id], text: "Please look.", when: "at once" },
      key: crypto.randomUUID(),
    });
    expect(body).toEqual({ addresses: 1, outcome: "goes out" });
    const later = { things: [thing?.id], text: "", when: "next digest", key: crypto.randomUUID() };
    const path = `/api/lists/${list}/shelf/notice`;
    expect((await ravi.ask("POST", path, later)).status).toBe(422);
    const mail = await house.house.mailTo("oak@oakmail.example", "New on the shelf: Sizes");
    expect(mail).toContain(`/member/shelf/${thing?.id}`);
    expect(mail).toContain("for as long as Ravi Lindqvist shares them with you");
    expect(mail).not.toMatch(/Costume parents|List-Id/);
  });

  test("shares a thing with a list's; whoever leads that sees nobody of the private one", async () => {
    const id = await house.put("Both.txt", "for both", list, ravi);
    const pine = await personOf(house.juno, "tove pine");
    const other = await house.juno.ask<{ id: string }>("POST", "/api/private-lists", {
      ...{ name: "Drivers", people: [pine] },
    });
    const asIt = { title: "Both", membersMay: "view", changes: 0, lists: [list, house.trapeze] };
    expect(await house.change(id, asIt, ravi)).toBe(200);
    expect(await titlesOf(elm)).toEqual(["Both"]);
    // It is on one of Juno's lists now, but Ravi's private one stays unknown to her.
    expect(await house.change(id, { lists: [house.trapeze, other.body.id], changes: 1 })).toBe(200);
    const asJuno = (await house.shelf()).find((thing) => thing.id === id);
    // Those of her own private list count for her, those of his for him.
    expect(asJuno).toMatchObject({
      others: [{ id: other.body.id, title: "Drivers" }],
      mayOpen: 3,
    });
    const asRavi = (await house.shelf(house.trapeze, ravi)).find((thing) => thing.id === id);
    expect(asRavi).toMatchObject({
      others: [{ id: list, title: "Costume parents" }],
      mayOpen: 2,
    });
    const { openers } = await house.detailsOf(id, ravi);
    expect(openers.map(({ address }) => address).sort()).toEqual([
      "elm@oakmail.example",
      "oak@oakmail.example",
    ]);
    expect(await titlesOf(await house.memberOf("pine@oakmail.example"))).toEqual(["Both"]);
  });

  test("ends for whom its owner may no longer know, and with the list", async () => {
    // Ida has left: the coach who made the list may not know her family any more.
    await house.house.readLines(house.juno, [HEAD, ELM, PINE], { id: house.source });
    await house.house.step(house.juno);
    expect(await titlesOf(oak)).toEqual([]);
    const things = await house.shelf(list, ravi);
    const only = things.find(({ title }) => title === "Sizes")?.id ?? "";
    expect((await ravi.ask("DELETE", `/api/private-lists/${list}`)).status).toBe(200);
    expect((await ravi.ask("GET", `/api/shelf/${only}`)).status).toBe(404);
    expect((await house.shelf()).map(({ title }) => title)).toContain("Both");
  });
});
