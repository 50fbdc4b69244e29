import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { dayFromNow, HEAD, startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { ODILE, until, type Client } from "../testing/testHouse";
import { keepGuestsInStep } from "./keepGuestsInStep";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
  student(3, "Pine", "Tove", "Big Barn", "Juggling One"),
];
let dates: DatesHouse;
let odile: Client;
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, dayFromNow(20));
  odile = await dates.house.signIn(ODILE);
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

/** The id of somebody by their name, as the form finds them. */
async function person(name: string, client = dates.juno): Promise<string> {
  const { body } = await client.ask<{ kind: string; id: string; name: string }[]>(
    "GET",
    `/api/targets?q=${encodeURIComponent(name)}`,
  );
  const found = body.find((hit) => hit.kind === "person" && hit.name === name);
  if (found === undefined) throw new Error(`no ${name} in ${JSON.stringify(body)}`);
  return found.id;
}

describe("people who are invited by themselves", () => {
  test("need no list: a child's guardians are invited by whoever made the date, and answer to them", async () => {
    const id = await dates.make({
      title: "Talk",
      lists: [],
      people: [await person("Ida Oak"), await person("Robin Pine")],
    });
    const mails = await dates.got("Invitation: Talk", 2);
    expect([...mails.keys()].sort()).toEqual(["oak@oakmail.example", "pine@oakmail.example"]);
    const oak = mails.get("oak@oakmail.example");
    expect(oak?.mail.from?.value[0]?.name).toBe("Juno Abara");
    expect(oak?.mail.replyTo?.value[0]?.address).toBe("juno.abara@copperwheel.example");
    expect(oak?.mail.text).toContain("Juno Abara");
    await fetch(`${dates.house.url}/date/${oak?.token ?? ""}`, {
      method: "POST",
      body: new URLSearchParams({ answer: "yes" }),
    });
    const page = await dates.pageOf(id);
    expect(page.people.map(({ name }) => name).sort()).toEqual(["Ida Oak", "Robin Pine"]);
    expect(page.guests.map(({ address, name, answer }) => [address, name, answer])).toEqual([
      ["oak@oakmail.example", "Robin Oak", "yes"],
      ["pine@oakmail.example", "Robin Pine", null],
    ]);
    // Nobody else sees a date that is for people alone.
    expect((await odile.ask("GET", `/api/dates/${id}`)).status).toBe(404);
    const shown = await odile.ask<{ title: string }[]>("GET", "/api/dates");
    expect(shown.body.map(({ title }) => title)).not.toContain("Talk");
  });

  test("beside a list are invited once, and seen by whoever chose them alone", async () => {
    const id = await dates.make({
      title: "Mixed",
      people: [await person("Robin Pine"), await person("Robin Oak")],
    });
    expect([...(await dates.got("Invitation: Mixed", 3)).keys()].sort()).toEqual([
      "elm@oakmail.example",
      "oak@oakmail.example",
      "pine@oakmail.example",
    ]);
    const theirs = await dates.pageOf(id, odile);
    expect(theirs.people).toEqual([]);
    expect(theirs.guests.map(({ address }) => address)).toEqual([
      "elm@oakmail.example",
      "oak@oakmail.example",
    ]);
    // Whoever else changes the date leaves them as they are.
    const changed = await odile.ask("PUT", `/api/dates/${id}`, {
      ...dates.contentOf({ title: "Mixed", place: "Roof" }),
      sequence: theirs.sequence,
    });
    expect(changed.status).toBe(200);
    await dates.got("Changed: Mixed", 3);
    expect((await dates.pageOf(id)).people).toHaveLength(2);
  });

  test("are those whom one may know: nobody invites others by their ids", async () => {
    const pine = await person("Robin Pine");
    const { status, body } = await odile.ask<{ detail: string }>(
      "POST",
      "/api/dates",
      dates.contentOf({ title: "No", lists: [], people: [pine] }),
    );
    expect([status, body.detail]).toEqual([404, expect.stringContaining("person")]);
    const none = await dates.juno.ask("POST", "/api/dates", dates.contentOf({ lists: [] }));
    expect(none.status).toBe(422);
  });

  test("who have left the school stand in no date's way", async () => {
    const kim = student(8, "Kelp", "Kim", "Mill Loft", "Trapeze Two");
    const office = { id: dates.source };
    await dates.house.readLines(dates.juno, [HEAD, ...ROSTER, kim], office);
    await dates.house.step(dates.juno);
    const people = [await person("Robin Kelp"), await person("Robin Pine")];
    const id = await dates.make({ title: "Before", lists: [], people });
    await dates.got("Invitation: Before", 2);
    await dates.house.readLines(dates.juno, [HEAD, ...ROSTER], office);
    await dates.house.step(dates.juno);
    await dates.got("No longer invited: Before", 1);
    const { sequence, people: shown } = await dates.pageOf(id);
    expect(shown.map(({ name }) => name)).toEqual(["Robin Pine"]);
    const { status } = await dates.juno.ask("PUT", `/api/dates/${id}`, {
      ...dates.contentOf({ title: "After", lists: [], people }),
      sequence,
    });
    expect(status).toBe(200);
    await dates.got("Changed: After", 1);
  });

  test("stay in step: a private list's people come and go, and a new address is invited in place of the old", async () => {
    const { body } = await dates.juno.ask<{ id: string }>("POST", "/api/private-lists", {
      name: "Helpers",
      people: [await person("Robin Elm")],
    });
    await dates.make({ title: "Helpers meet", lists: [], privateLists: [body.id] });
    expect([...(await dates.got("Invitation: Helpers meet", 1)).keys()]).toEqual([
      "elm@oakmail.example",
    ]);
    dates.turnPage();
    await dates.juno.ask("PUT", `/api/private-lists/${body.id}`, {
      add: [await person("Robin Oak")],
      remove: [await person("Robin Elm")],
    });
    await keepGuestsInStep(dates.house.amigo.context);
    await dates.got("No longer invited: Helpers meet", 1);
    await dates.got("Invitation: Helpers meet", 1);
    dates.turnPage();
    const moved = ROSTER.map((line) => line.replace("oak@oakmail", "oak.new@oakmail"));
    await dates.house.readLines(dates.juno, [HEAD, ...moved], { id: dates.source });
    await dates.house.step(dates.juno);
    await until(
      "the new address is invited",
      () => dates.house.sink.mails.map(({ to, raw }) => `${to} ${String(raw)}`),
      (mails) =>
        mails.some((mail) => /^oak\.new@.*Invitation: Helpers meet/s.test(mail)) &&
        mails.some((mail) => /^oak@.*No longer invited: Helpers meet/s.test(mail)),
    );
  });
});
