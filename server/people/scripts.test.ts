import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Family } from "@amigo/contract/people";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

let house: TestHouse;
let juno: Client;

/** Families who write their names in several scripts, and one whose mail is at a domain with an ü. */
const ROWS = [
  "Student no.,Surname,First name,Site,Class,Parent 1,Email 1",
  "CW-1,García,José,Mill Loft,Київ,Ana García,ana@münchhausen.example",
  "CW-2,Шевченко,Їжак,Mill Loft,Київ,Олена Шевченко,olena@lettr.example",
  "CW-3,Álvarez,Zoe,Big Barn,Αυγή,Pia Álvarez,pia@lettr.example",
  "CW-4,Zander,Ada,Big Barn,Αυγή,Otto Zander,otto@lettr.example",
  "CW-5,حداد,ليلى,Big Barn,السيرك,سامر حداد,samer@lettr.example",
  "CW-6,かわ,かき,Big Barn,السيرك,Rin かわ,rin@lettr.example",
  "CW-7,かわ,がき,Big Barn,السيرك,Rin かわ,rin@lettr.example",
];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.readLines(juno, ROWS, { name: "Roster" });
  await house.step(juno);
});
afterAll(() => house.close());

const found = async (q: string): Promise<string[]> =>
  (
    await juno.ask<{ kind: string; title: string }[]>("GET", `/api/find?q=${encodeURIComponent(q)}`)
  ).body
    .filter(({ kind }) => kind === "person")
    .map(({ title }) => title)
    .sort();
const families = async (q = ""): Promise<string[]> =>
  (
    await juno.ask<{ families: Family[] }>("GET", `/api/people?q=${encodeURIComponent(q)}`)
  ).body.families.map(({ people }) => people[0]?.name ?? "");

describe("names in any script", () => {
  test.each([
    ["Jose", ["José García"]],
    ["josé", ["José García"]],
    ["jose\u0301", ["José García"]],
    ["їжак", ["Їжак Шевченко"]],
    ["шевч", ["Їжак Шевченко", "Олена Шевченко"]],
    ["ليلى", ["ليلى حداد"]],
    ["かき", ["かき かわ"]],
  ])("%s is found", async (q, names) => expect(await found(q)).toEqual(names));

  test("two children whose names differ by a mark that is a letter stay two", async () => {
    expect(await found("がき")).toEqual(["がき かわ"]);
    expect((await families("かわ")).length).toBe(1);
  });

  test("stand in the order of their language, and not in that of their codes", async () => {
    const latin = (await families()).filter((name) => /^[\p{Script=Latin} ]+$/u.test(name));
    expect(latin).toEqual(["Zoe Álvarez", "José García", "Ada Zander"]);
  });

  test("classes become lists whose addresses can be typed anywhere", async () => {
    const { body } = await juno.ask<{ name: string; title: string }[]>("GET", "/api/lists?q=");
    const names = body.map(({ name }) => name).join(" ");
    for (const part of ["kyiv", "avgi", "alsyrk"]) expect(names).toContain(part);
    for (const { name } of body) expect(name).toMatch(/^[a-z0-9.-]+$/);
  });
});

describe("an address at a domain with letters beyond ASCII", () => {
  const PUNY = "ana@xn--mnchhausen-9db.example";

  test("is one person's, in whichever way a mail or a search has it", async () => {
    expect(await families("ana@münchhausen.example")).toEqual(["José García"]);
    expect(await families(PUNY)).toEqual(["José García"]);
  });

  test("gets mail, and its owner's mail is known as a member's", async () => {
    const { body: lists } = await juno.ask<{ id: string; title: string; name: string }[]>(
      "GET",
      `/api/lists?q=${encodeURIComponent("Київ Guardians")}`,
    );
    const guardians = lists[0];
    expect(guardians).toBeDefined();
    const sent = await juno.ask("POST", "/api/posts", {
      lists: [guardians?.id],
      subject: "Résumé of the Łódź tour",
      text: "Café at noon.",
      key: crypto.randomUUID(),
    });
    expect(sent).toMatchObject({ status: 200 });
    // The relay of the tests tells domains in their own letters, whichever way they came.
    await house.mailTo("ana@münchhausen.example", "Subject");
    const page = await juno.ask("GET", `/api/lists/${guardians?.id}/members?q=${PUNY}`);
    expect(JSON.stringify(page.body)).toContain("Ana García");
    for (const q of ["resume", "Résumé", "lodz", "Łódź", "cafe"])
      expect(
        (await juno.ask<unknown[]>("GET", `/api/posts?q=${encodeURIComponent(q)}`)).body.length,
        q,
      ).toBe(1);
    const mail = { from: "Ana <ana@münchhausen.example>", returnPath: PUNY };
    const to = `${guardians?.name}@lists.copperwheel.example`;
    // Nobody but its leads may write there; that she is known as one of its members stands in the mail's history.
    await expect(house.mail({ ...mail, to, subject: "A question" })).rejects.toThrow("550");
    const { body: trace } = await juno.ask<unknown>("GET", `/api/mail/trace?q=${PUNY}`);
    expect(JSON.stringify(trace)).toContain("A question");
    expect(JSON.stringify(trace)).toContain(PUNY);
  });
});
