import { sql } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { MemberLists } from "@amigo/contract/member";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";
import { keepLanguage, knownLanguage, languageOf, languagesOf } from "./familyLanguage";
import { goOnIn, inLanguage, inStaffLanguage } from "./inLanguage";
import { t } from "./t";

const PAVEL = "pbellweather@fernpost.example";
const OTHER = "somebody@oakmail.example";

let house: TestHouse;
let juno: Client;
beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());

const db = () => house.amigo.context.db;
/** The text of the mail to Pavel with a subject, whatever it is encoded in. */
const textOf = (subject: string): Promise<string> =>
  until(
    `a mail "${subject}"`,
    async () => {
      const mails = house.sink.mails.filter(({ to }) => to === PAVEL);
      const read = await Promise.all(mails.map(({ raw }) => simpleParser(raw)));
      return read.find((mail) => mail.subject?.includes(subject))?.text ?? "";
    },
    (text) => text !== "",
  );
/** Opens Pavel's page by a mailed link, with a browser that reads a language. */
const openPage = async (subject: string, language: string): Promise<Client> => {
  const client = house.client();
  const reads = { "Accept-Language": language };
  house.sink.mails.length = 0;
  await client.ask("POST", "/api/member/link", { address: PAVEL }, reads);
  const token = /\/member\/([\w-]{20,})/.exec(await textOf(subject))?.[1] ?? "";
  const { status } = await client.ask("POST", "/api/member/enter", { token }, reads);
  expect(status).toBe(200);
  return client;
};
const ask = async (client: Client, language: string) =>
  (
    await client.ask<MemberLists & { detail: string }>("GET", "/api/member", undefined, {
      "Accept-Language": language,
    })
  ).body;

describe("what is spoken", () => {
  test("is one language in one piece of work and another in the next, at once", async () => {
    const thanks = async (language: string): Promise<string[]> =>
      inLanguage(language, async () => {
        const first = t("shared.thankYou");
        await knownLanguage(db(), OTHER);
        return [first, t("shared.thankYou"), inStaffLanguage(() => t("shared.thankYou"))];
      });
    expect(await Promise.all([thanks("de"), thanks("tr"), thanks("en")])).toEqual([
      ["Danke", "Danke", "Thank you"],
      ["Teşekkürler", "Teşekkürler", "Thank you"],
      ["Thank you", "Thank you", "Thank you"],
    ]);
    expect(t("shared.thankYou")).toBe("Thank you");
  });

  test("can change on the way, and is the staff's where no work has one", () => {
    inLanguage("de", () => {
      goOnIn("fr");
      expect(say(message("mail.noSubject"))).toBe("(sans objet)");
    });
    goOnIn("fr");
    expect(say(message("mail.noSubject"))).toBe("(no subject)");
  });
});

describe("the language of an address", () => {
  test("is its owner's choice before the form's, and that before the browser's", async () => {
    await keepLanguage(db(), OTHER, "pl", "browser");
    await keepLanguage(db(), OTHER, "tr", "form");
    await keepLanguage(db(), OTHER, "fr", "browser");
    expect(await knownLanguage(db(), OTHER)).toBe("tr");
    await keepLanguage(db(), OTHER, "ar", "choice");
    await keepLanguage(db(), OTHER, "es", "form");
    expect(await knownLanguage(db(), OTHER)).toBe("ar");
    await keepLanguage(db(), OTHER, "uk", "choice");
    expect(await languageOf(db(), OTHER)).toBe("uk");
  });

  test("is the house's where nothing is known, as far as families read it", async () => {
    const at = async () =>
      (await languagesOf(db(), [OTHER, "new@oakmail.example"]))("new@oakmail.example");
    expect(await at()).toBe("en");
    for (const [language, wanted] of [
      ["de", "de"],
      ["fi", "en"],
    ] as const) {
      await db().execute(sql`update house set language = ${language}`);
      expect(await at()).toBe(wanted);
    }
    await db().execute(sql`update house set language = 'en'`);
  });
});

describe("a member", () => {
  test("is written to and answered in the browser's language, until they choose another", async () => {
    const pavel = await openPage("Sus listas", "es-MX,es;q=0.9");
    expect((await pavel.ask("PUT", "/api/member/language", { language: "xx" })).status).toBe(400);
    expect((await ask(pavel, "de")).language).toBe("es");
    expect((await ask(pavel, "de")).lists[0]?.because).toMatch(/^responsable de /);
    expect((await pavel.ask("PUT", "/api/member/language", { language: "uk" })).status).toBe(200);
    const page = await ask(pavel, "es");
    expect([page.language, page.lists[0]?.because]).toEqual([
      "uk",
      expect.stringMatching(/^опікун: /),
    ]);
    // A link that is asked for in a foreign browser still comes in their own.
    await openPage("Ваші списки", "tr");
    expect((await ask(pavel, "tr")).language).toBe("uk");
  });

  test("reads refusals in their language, and whoever isn't signed in, in the browser's", async () => {
    const pavel = await openPage("Ваші списки", "en");
    const { body } = await pavel.ask<{ detail: string }>("PUT", "/api/member/pause", {
      until: "2020-01-01",
    });
    expect(body.detail).toBe("Цей день уже минув. Виберіть сьогодні або пізніший день.");
    expect((await ask(house.client(), "fr")).detail).toBe(
      "Cette page a été fermée ou a expiré. Demandez un nouveau lien.",
    );
  });

  test("is told of in English where the office reads it: in the journal and in a note", async () => {
    const pavel = await openPage("Ваші списки", "uk");
    house.sink.mails.length = 0;
    await pavel.ask("PUT", "/api/member/pause", { until: "2027-03-01" });
    await pavel.ask("POST", "/api/member/wrong", { about: "Freya", text: "Вона вже не тут" });
    await house.mailTo(JUNO, "Wrong, says Pavel Bellweather");
    const { body } = await juno.ask<{ entries: { sentence: string }[] }>("GET", "/api/journal");
    expect(JSON.stringify(body)).toContain(
      `${PAVEL} gets no mail of lists until 1 Mar 2027 is over`,
    );
    await pavel.ask("PUT", "/api/member/pause", { until: "" });
  });
});

describe("pages behind mailed links", () => {
  test("are in the browser's language where nobody is known by them", async () => {
    const page = await fetch(`${house.url}/leave/nothing`, {
      headers: { "Accept-Language": "ar" },
    });
    const text = await page.text();
    expect(text).toContain('<html lang="ar" dir="rtl">');
    expect(text).toContain("انتهت صلاحية هذا الرابط");
  });

  test("are in the language of the address that they were mailed to", async () => {
    const { rows } = await db().execute<{ id: string }>(
      sql`select membership.list_id as id from membership where address = ${PAVEL} and valid_until is null limit 1`,
    );
    house.sink.mails.length = 0;
    await juno.ask("POST", "/api/posts", {
      ...{ lists: [rows[0]?.id], subject: "To leave", text: "Dear families." },
      key: crypto.randomUUID(),
    });
    const raw = await house.mailTo(PAVEL, "To leave");
    const url = /https?:\/\/[^\s>]+\/leave\/[\w.-]+/.exec(raw.replace(/=\r?\n/g, ""))?.[0] ?? "";
    const page = await fetch(url.replace(/^https?:\/\/[^/]+/, house.url), {
      headers: { "Accept-Language": "de" },
    });
    expect(await page.text()).toContain("Вийти з цього списку");
  });
});
