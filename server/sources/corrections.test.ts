import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { CorrectionLine } from "@amigo/contract/corrections";
import type { ReadingPage } from "@amigo/contract/readings";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { openRoundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let source = "";
let reading = "";

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
const IDA = "CW-1,Brandt,Ida,Mill Loft,Trapeze Two,Halim Brandt,hbrandt@oakmail.example";
const WREN = "CW-2,Eastlake,Wren,Mill Loft,Trapeze Two,Tove Eastlake,n/a";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  ({ source, reading } = await house.readLines(juno, [HEAD, IDA, WREN], { name: "Roster" }));
  await house.step(juno);
});
afterAll(() => house.close());

const correct = (body: Record<string, unknown>) =>
  juno.ask<{ id: string; detail?: string }>("POST", "/api/corrections", {
    reading,
    row: 3,
    column: 6,
    read: "tove@lettr.example",
    ...body,
  });
const corrections = async () => (await juno.ask<CorrectionLine[]>("GET", "/api/corrections")).body;
const openRound = () => openRoundOf(juno);
const faults = async () =>
  (await juno.ask<ReadingPage>("GET", `/api/readings/${reading}`)).body.faults.map(
    ({ row, correction }) => [row, correction !== null],
  );

describe("a faulty cell", () => {
  test("put right in place opens a round at once, and is listed with who made it", async () => {
    expect(await faults()).toEqual([[3, false]]);
    expect((await correct({})).status).toBe(200);
    expect(
      (await openRound())?.causes.map(({ kind, title, joins }) => [kind, title, joins]),
    ).toEqual([["corrected", "Tove Eastlake", 1]]);
    expect(await corrections()).toMatchObject([
      {
        source: "Roster",
        who: "Wren Eastlake",
        place: "Roster, sheet Text, row 3, Guardian 1 address (column G)",
        written: "n/a",
        read: "tove@lettr.example",
        by: "Juno Abara",
        ended: "",
      },
    ]);
    expect(await faults()).toEqual([[3, true]]);
    await house.step(juno);
  });

  test("stays right in the next reading, though its row has moved, and the member says why", async () => {
    ({ reading } = await house.readLines(juno, [HEAD, WREN, IDA], { id: source }));
    expect(await openRound()).toBeNull();
    const { body: found } = await juno.ask<{ id: string }[]>(
      "GET",
      "/api/lists?q=trapeze two guardians",
    );
    const { body } = await juno.ask<{
      members: { address: string; people: { where: string }[] }[];
    }>("GET", `/api/lists/${found[0]?.id}/members`);
    expect(body.members.map(({ address }) => address)).toContain("tove@lettr.example");
    const { body: people } = await juno.ask<{
      families: { people: { id: string; name: string }[] }[];
    }>("GET", "/api/people?q=tove");
    const tove = people.families
      .flatMap((family) => family.people)
      .find(({ name }) => name === "Tove Eastlake");
    const { body: page } = await juno.ask<{
      timeline: { what: string; where: { text: string } }[];
    }>("GET", `/api/people/${tove?.id}`);
    expect(
      page.timeline.find(({ what }) => what === "is reached at tove@lettr.example")?.where.text,
    ).toBe('Roster, row 3, column G, corrected by Juno Abara (the sheet says "n/a")');
  });

  test("ends when the sheet itself changes there", async () => {
    ({ reading } = await house.readLines(
      juno,
      [HEAD, WREN.replace("n/a", "tove.new@lettr.example"), IDA],
      { id: source },
    ));
    expect((await openRound())?.causes.map(({ detail }) => detail)).toEqual([
      "tove@lettr.example → tove.new@lettr.example",
    ]);
    expect((await corrections())[0]?.ended).toBe(
      "the sheet has had something else here since import 3",
    );
    await house.step(juno);
    ({ reading } = await house.readLines(juno, [HEAD, WREN, IDA], { id: source }));
    expect((await openRound())?.causes.map(({ kind }) => kind)).toEqual(["unreachable"]);
  });

  test("can be ended by hand, and a class can be corrected as well as an address", async () => {
    const { body } = await correct({ row: 2 });
    expect(await openRound()).not.toBeNull();
    expect((await juno.ask("DELETE", `/api/corrections/${body.id}`)).status).toBe(200);
    expect((await corrections()).find(({ id }) => id === body.id)?.ended).toBe(
      "Juno Abara took it back",
    );
    expect((await juno.ask("DELETE", `/api/corrections/${body.id}`)).status).toBe(404);
    await correct({ row: 3, column: 4, read: "Wire Walk" });
    expect((await openRound())?.causes.map(({ kind, detail }) => `${kind} ${detail}`)).toContain(
      "corrected Trapeze Two → Wire Walk",
    );
  });

  test.each<[string, Record<string, unknown>, number]>([
    ["what is no address", { row: 2, read: "n/a again" }, 422],
    ["what the sheet says already", { row: 2, read: "n/a" }, 422],
    ["a cell that is not there", { row: 99 }, 404],
    ["a column that is not there", { column: 40 }, 404],
    ["no reading", { reading: "00000000-0000-4000-8000-000000000000" }, 404],
  ])("is not corrected by %s", async (_what, body, status) =>
    expect((await correct(body)).status).toBe(status),
  );

  test("of an older reading is not corrected", async () => {
    const old = reading;
    await house.readLines(juno, [HEAD, WREN, IDA.replace("hbrandt", "h.brandt")], { id: source });
    expect(await correct({ reading: old, row: 2 })).toMatchObject({
      status: 409,
      body: { detail: "There is a newer import of this sheet. Open that one." },
    });
  });
});

describe("a cell of another sheet", () => {
  const lines = [
    "Name,Class,Parents,Emails,Date of birth",
    'Kit Sorrel,Larks,Halim and Rosa Sorrel,"k1@lettr.example; k2@lettr.example",2015-03-04',
    "Ada Fenn,Larks,Petra Fenn,petra@lettr.example,2015-04-05",
  ];
  let found = "";
  beforeAll(async () => {
    ({ reading: found } = await house.readLines(juno, lines, { name: "Larks" }));
  });

  test("which guardian an address belongs to is settled by the proposal of its fault", async () => {
    const page = async () => (await juno.ask<ReadingPage>("GET", `/api/readings/${found}`)).body;
    const [fault] = (await page()).faults;
    expect(fault).toMatchObject({ row: 2, fault: "whose", column: 3 });
    const read = fault?.proposal ?? "";
    expect(read.match(/<k\d@/g)).toEqual(["<k1@", "<k2@"]);
    expect((await correct({ reading: found, row: 2, column: 3, read })).status).toBe(200);
    expect((await page()).faults.filter(({ correction }) => correction === null)).toEqual([]);
    const joined = (await openRound())?.causes.find(({ title }) => title === "Kit Sorrel");
    expect(joined).toMatchObject({ detail: "Larks, with 2 guardians", joins: 2 });
  });

  test("that isn't imported, a birth date's, can't be corrected, so that it is never stored", async () => {
    expect(await correct({ reading: found, row: 2, column: 4, read: "2015-03-05" })).toMatchObject({
      status: 422,
      body: {
        detail: "Column E isn't used, so there is nothing to correct. Say first what it holds.",
      },
    });
  });
});
