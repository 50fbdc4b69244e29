import { simpleParser } from "mailparser";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { Draft, DraftContent, DraftReckoning, Target } from "@amigo/contract/drafts";
import type { MailHouse } from "@amigo/contract/mail";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";
import { sendDigests } from "../mail/digests";

let house: TestHouse;
let juno: Client;
let all: Target;

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
/** Who reads which language. */
const READS: Record<string, string> = {
  "olena@lettr.example": "uk",
  "salma@lettr.example": "ar",
  "pia@lettr.example": "en",
};
const ROWS = [
  "CW-1,Shevchenko,Ida,Mill Loft,Trapeze Two,Olena Shevchenko,olena@lettr.example",
  "CW-2,Haddad,Bram,Mill Loft,Trapeze Two,Salma Haddad,salma@lettr.example",
  "CW-3,Oak,Rosa,Mill Loft,Trapeze Two,Pia Oak,pia@lettr.example",
  "CW-4,Elm,Jan,Mill Loft,Trapeze Two,Otto Elm,otto@lettr.example",
];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.readLines(juno, [HEAD, ...ROWS], { name: "Roster" });
  await house.step(juno);
  const { db } = house.amigo.context;
  await db.execute(sql`update house set undo_seconds = 0`);
  for (const [address, language] of Object.entries(READS))
    await db.execute(
      sql`insert into address_language (address, language, known_by) values (${address}, ${language}, 'choice')`,
    );
  const { body } = await juno.ask<{ id: string; title: string }[]>(
    "GET",
    "/api/lists?q=trapeze two guardians",
  );
  all = { kind: "list", id: body[0]?.id ?? "", name: body[0]?.title ?? "" };
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
});

const ENGLISH = {
  subject: "No training on Friday",
  html: "<p>Dear {first name|families},</p><p>the hall is shut.</p>",
};
const UKRAINIAN = {
  language: "uk",
  subject: "У п’ятницю занять немає",
  html: "<p>{first name}, зал зачинено.</p>",
} as const;
const ARABIC = {
  language: "ar",
  subject: "",
  html: "<p>القاعة مغلقة يا {first name}.</p>",
} as const;

const content = (part: Partial<DraftContent>): DraftContent => ({
  ...{ to: [all], cc: [], bcc: [], leftOut: [], answers: null, language: "", versions: [] },
  ...{ as: "oneself", copyToMe: false, shown: false },
  ...ENGLISH,
  ...part,
});
const keep = async (part: Partial<DraftContent>): Promise<string> => {
  const id = crypto.randomUUID();
  expect((await juno.ask<Draft>("PUT", `/api/drafts/${id}`, content(part))).status).toBe(200);
  return id;
};
const send = (id: string) =>
  juno.ask<{ detail?: string; addresses: number }>("POST", `/api/drafts/${id}/send`, {
    how: "now",
    asked: ["many", "outside"],
  });
const reckon = async (part: Partial<DraftContent>): Promise<DraftReckoning> =>
  (
    await juno.ask<DraftReckoning>("POST", "/api/drafts/reckon", {
      content: content(part),
      files: 0,
    })
  ).body;
/** The first copy to an address, or the first that has something in it: one of an earlier test can come late. */
const copyTo = async (address: string, words = "") => {
  const raw = await until(
    `a copy to ${address}`,
    () =>
      house.sink.mails.find(({ to, raw: of }) => to === address && of.includes(words))?.raw ?? "",
    (found) => found !== "",
  );
  return { raw, mail: await simpleParser(Buffer.from(raw, "latin1")) };
};
/** In which order texts stand in another. */
const inOrder = (text: string, ...parts: string[]): boolean =>
  parts.every(
    (part, at) => text.indexOf(part) > (at === 0 ? -1 : text.indexOf(parts[at - 1] ?? "")),
  );

describe("a mail in several languages", () => {
  test("tells its writer whose language is missing, until it is there", async () => {
    const { usualLanguage, missingLanguages } = await reckon({});
    expect(usualLanguage).toBe("en");
    expect(missingLanguages).toHaveLength(2);
    for (const language of ["ar", "uk"])
      expect(missingLanguages).toContainEqual({ language, addresses: 1 });
    expect((await reckon({ versions: [UKRAINIAN] })).missingLanguages).toEqual([
      { language: "ar", addresses: 1 },
    ]);
    expect((await reckon({ versions: [UKRAINIAN, ARABIC] })).missingLanguages).toEqual([]);
    expect((await reckon({ language: "fr" })).missingLanguages).toContainEqual({
      language: "en",
      addresses: 2,
    });
  });

  test("has each reader's own first, filled in, and the others below", async () => {
    const id = await keep({ versions: [UKRAINIAN, ARABIC] });
    const preview = await juno.ask<{ subject: string; html: string; text: string }>(
      "POST",
      `/api/drafts/${id}/preview`,
      { address: "olena@lettr.example" },
    );
    expect((await send(id)).body).toMatchObject({ addresses: 4 });
    const { mail: olena } = await copyTo("olena@lettr.example");
    expect(olena.subject).toContain(UKRAINIAN.subject);
    expect(olena.headers.get("content-language")).toBe("uk, en, ar");
    expect(
      inOrder(olena.text ?? "", "↓ English · العربية", "Olena, зал", "Dear Olena", "يا Olena"),
    ).toBe(true);
    expect(preview.body.subject).toBe(UKRAINIAN.subject);
    expect(olena.text).toContain(preview.body.text.split("\n\n-- ")[0]?.trim());
    expect(String(olena.html)).toContain('<div lang="ar" dir="rtl">');
    const { mail: salma } = await copyTo("salma@lettr.example");
    expect(salma.subject).toContain(ENGLISH.subject);
    expect(inOrder(salma.text ?? "", "يا Salma", "Dear Salma", "Salma, зал")).toBe(true);
    const { mail: otto } = await copyTo("otto@lettr.example");
    expect(inOrder(otto.text ?? "", "Dear Otto", "Otto, зал", "يا Otto")).toBe(true);
  });

  test("without fields is prepared once for each language, and each reader still gets theirs first", async () => {
    const plain = { html: "<p>The hall is shut.</p>" };
    await send(
      await keep({ ...plain, versions: [{ ...UKRAINIAN, html: "<p>Зал зачинено.</p>" }] }),
    );
    for (const [address, first, second] of [
      ["olena@lettr.example", "Зал", "The hall"],
      ["pia@lettr.example", "The hall", "Зал"],
      ["otto@lettr.example", "The hall", "Зал"],
    ] as const)
      expect(inOrder((await copyTo(address)).mail.text ?? "", first, second), address).toBe(true);
  });

  test("isn't sent with a language that has no text", async () => {
    const { status, body } = await send(
      await keep({ versions: [{ ...UKRAINIAN, html: "<p> </p>" }] }),
    );
    expect([status, body.detail]).toEqual([
      422,
      "Write the text in Ukrainian, or remove that language.",
    ]);
    expect(house.sink.mails).toEqual([]);
  });

  test("may not hold what a mail may not hold, in any of its languages", async () => {
    await send(
      await keep({
        versions: [
          {
            language: "es",
            subject: "Hola\r\nBcc: evil@lettr.example",
            html: '<p>Hola</p><script>alert(1)</script><img src="https://spy.example/x.png">',
          },
        ],
      }),
    );
    const { raw } = await copyTo("pia@lettr.example");
    expect(raw.split("\r\n\r\n")[0]).not.toMatch(/^Bcc:/im);
    expect(raw).not.toMatch(/^Bcc:/im);
    expect(raw.match(/^Content-Language:/gim)).toHaveLength(1);
    expect(raw).not.toContain("<script");
    expect(raw).not.toContain("spy.example");
  });

  test("stands in a digest with its reader's own language first", async () => {
    const { db } = house.amigo.context;
    await db.execute(
      sql`insert into receiving (address, list_id, how_often) values ('salma@lettr.example', ${all.id}, 'daily')`,
    );
    await send(await keep({ versions: [ARABIC] }));
    await copyTo("pia@lettr.example");
    // Tomorrow evening, whatever the time is now: digests go out from the hour on that the house has set.
    const late = new Date(Date.now() + 24 * 3_600_000);
    late.setUTCHours(21);
    await sendDigests(house.amigo.context, late);
    const { mail } = await copyTo("salma@lettr.example", "message/rfc822");
    const whole = await simpleParser(mail.attachments[0]?.content ?? Buffer.alloc(0));
    expect(inOrder(whole.text ?? "", "القاعة", "the hall is shut")).toBe(true);
    await db.execute(sql`delete from receiving`);
  });

  test("goes out as one part for each language where the school wants it so (RFC 8255)", async () => {
    const { settings, version } = (await juno.ask<MailHouse>("GET", "/api/mail")).body;
    const { status } = await juno.ask("PUT", "/api/mail/settings", {
      ...settings,
      languageParts: true,
      version,
    });
    expect(status).toBe(200);
    // What copies are made by is asked of the database anew every two seconds.
    await until(
      "a mail in parts",
      async () => {
        house.sink.mails.length = 0;
        await send(await keep({ versions: [UKRAINIAN] }));
        return (await copyTo("olena@lettr.example")).raw;
      },
      (raw) => raw.includes("multipart/multilingual"),
    );
    const { raw, mail } = await copyTo("olena@lettr.example");
    expect(raw).toMatch(/Content-Language: uk\r\nContent-Translation-Type: original/);
    expect(raw).toMatch(/Content-Language: en\r\nContent-Translation-Type: human/);
    expect(mail.subject).toContain(UKRAINIAN.subject);
    expect(mail.text).toContain("This mail says the same in several languages.");
    const parts = await Promise.all(
      mail.attachments
        .filter(({ contentType }) => contentType === "message/rfc822")
        .map(({ content: part }) => simpleParser(part)),
    );
    expect(parts.map(({ subject }) => subject)).toEqual([UKRAINIAN.subject, ENGLISH.subject]);
    expect(parts.map(({ text }) => (text ?? "").slice(0, 10))).toEqual([
      "Olena, зал",
      "Dear Olena",
    ]);
    expect(parts.every(({ from }) => from !== undefined)).toBe(true);
  });
});
