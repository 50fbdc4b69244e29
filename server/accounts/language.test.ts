import { simpleParser } from "mailparser";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Me } from "@amigo/contract/accounts";
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
let list = "";
let listId = "";
beforeAll(async () => {
  house = await startTestHouse();
  [juno, ravi] = [await house.signIn(JUNO), await house.signIn(RAVI)];
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  const { body } = await ravi.ask<{ id: string }[]>(
    "GET",
    "/api/lists?q=trapeze%20two%20guardians",
  );
  listId = body[0]?.id ?? "";
  const found = await ravi.ask<{ key: string }>("GET", `/api/lists/${listId}`);
  list = found.body.key;
});
afterAll(() => house.close());

const choose = (client: Client, language: string) =>
  client.ask<{ detail?: string }>("PUT", "/api/account/language", { language });
const me = async (client: Client): Promise<Me> => (await client.ask<Me>("GET", "/api/me")).body;
/** What an account is told where a list is not there. */
const refusal = async (client: Client, headers?: Record<string, string>): Promise<string> =>
  (
    await client.ask<{ detail: string }>(
      "GET",
      "/api/lists/00000000-0000-4000-8000-000000000000",
      undefined,
      headers,
    )
  ).body.detail;
/** The mail to an address that has some words in its subject. */
const mailTo = (address: string, words: string) =>
  until(
    `a mail "${words}" to ${address}`,
    async () => {
      const mails = house.sink.mails.filter(({ to }) => to === address);
      const read = await Promise.all(mails.map(({ raw }) => simpleParser(raw)));
      return read.find((mail) => mail.subject?.includes(words));
    },
    (mail) => mail !== undefined,
  );

describe("the language of an account", () => {
  test("is chosen by its owner, for that account alone", async () => {
    expect((await me(ravi)).speaks).toBe("en");
    expect((await choose(ravi, "de")).status).toBe(200);
    expect((await me(ravi)).speaks).toBe("de");
    expect((await me(juno)).speaks).toBe("en");
    expect((await choose(ravi, "pl")).status).toBe(400);
    expect((await me(ravi)).speaks).toBe("de");
  });

  test("is that of what they are refused, whatever their browser asks for", async () => {
    expect(await refusal(ravi, { "Accept-Language": "es" })).toMatch(/^Diese Liste gibt es nicht/);
    expect(await refusal(juno, { "Accept-Language": "es" })).toMatch(/^There is no/);
    const wrong = { list, rule: "longest", wanted: "25", why: " ", work: {} };
    const { body } = await ravi.ask<{ detail: string }>("POST", "/api/requests", wrong);
    expect(body.detail).toMatch(/Sagen Sie in wenigen Worten/);
  });

  test("is that of files, too, which have routes of their own", async () => {
    const { body } = await ravi.ask<{ detail: string }>("GET", "/api/lists/export/csv", undefined, {
      "Accept-Language": "es",
    });
    expect(body.detail).toMatch(/^Nennen Sie die Listen/);
    expect(body.detail).not.toMatch(/listas/);
  });

  test("is not known before they sign in: then the browser's", async () => {
    const stranger = house.client();
    const told = (language: string) =>
      stranger.ask<{ detail: string }>(
        "POST",
        "/api/sign-in",
        { email: RAVI, password: "not his password" },
        { "Accept-Language": language },
      );
    expect((await told("es-MX, en;q=0.5")).body.detail).toMatch(/La dirección y la contraseña/);
    expect((await told("pl, de;q=0.5")).body.detail).toMatch(/^Adresse und Passwort/);
    expect((await told("pl")).body.detail).toMatch(/^Address and password/);
  });

  test("is that of the mails to them, and not that of whoever causes the mail", async () => {
    const made = await ravi.ask("POST", "/api/requests", {
      list,
      rule: "longest",
      wanted: "25",
      why: "Filme vom Fest",
      work: {},
    });
    expect([made.status, made.body]).toMatchObject([200, {}]);
    // From Ravi, whose language is German, to Juno, whose language is English.
    const asked = await mailTo(JUNO, "Ravi Lindqvist asks for");
    expect(asked?.text).toMatch(/^Hello Juno Abara,/);
    const { body } = await juno.ask<{ id: string; list: string }[]>("GET", "/api/requests");
    await juno.ask("POST", `/api/requests/${body[0]?.id}`, {
      yes: true,
      until: "",
      word: "",
    });
    const answered = await mailTo(RAVI, "Ja:");
    expect(answered?.text).toMatch(/^Guten Tag,? Ravi Lindqvist/);
    expect(answered?.text).not.toMatch(/\b(said|the list|You asked)\b/);
  });

  test("is that of previews, of what is refused where much is worked out, and of what an import found", async () => {
    await choose(juno, "es");
    const edit = { what: "lists", aliasUntil: "", lists: [{ key: list, points: { title: "" } }] };
    const { body } = await juno.ask<{ detail: string }>("POST", "/api/edits/plan", { edit });
    expect(body.detail).toMatch(/Póngale a la lista un nombre visible|nombre visible/);
    const { body: sources } = await juno.ask<{ last: { id: string } }[]>("GET", "/api/sources");
    const reading = await juno.ask<{ faults: { sentence: string }[] }>(
      "GET",
      `/api/readings/${sources[0]?.last.id ?? ""}`,
    );
    const sentences = reading.body.faults.map(({ sentence }) => sentence);
    expect(sentences).toContain("Se quitó una segunda @");
    await choose(juno, "en");
  });

  test("is not that of a round, which many read", async () => {
    await choose(juno, "de");
    await juno.ask("POST", `/api/lists/${listId}/kept`, {
      address: "helper@oakmail.example",
      side: "on",
      reason: "Fahrdienst",
    });
    await choose(juno, "en");
    const { body } = await juno.ask<{ entries: { sentence: string }[] }>("GET", "/api/journal");
    expect(body.entries[0]?.sentence).toMatch(/^Juno Abara chose “always on this list”/);
  });

  test("is not that of the journal, which is written in the house's", async () => {
    const { body } = await juno.ask<{ entries: { sentence: string }[] }>(
      "GET",
      "/api/journal?actor=Ravi",
    );
    expect(body.entries.length).toBeGreaterThan(0);
    const sentences = body.entries.map(({ sentence }) => sentence);
    expect(sentences.join(" ")).toMatch(/Ravi Lindqvist asked for|asks for/);
    expect(sentences.filter((sentence) => /\b(hat|für|und|wurde|bat)\b/.test(sentence))).toEqual(
      [],
    );
  });
});
