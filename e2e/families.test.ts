import { sql } from "drizzle-orm";
import { By } from "selenium-webdriver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { FAMILY_LANGUAGES, isRightToLeft } from "@amigo/language/families";
import { Person, WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
const juno = (): Person => house.person;

let family: Person;
let listId = "";

beforeAll(async () => {
  family = await Person.open(house.stack.url);
});
afterAll(() => family?.close());

/** Waits for a mail with a subject, and returns its text. */
async function mailTo(address: string, subject: string): Promise<string> {
  let text = "";
  await family.driver.wait(
    async () => {
      const letters = await house.stack.town.boxes.lettersOf(address);
      text = letters.find((letter) => letter.subject.includes(subject))?.text ?? "";
      return text !== "";
    },
    WAIT,
    `no mail "${subject}" came to ${address}`,
  );
  return text;
}

const linkIn = (text: string, path: RegExp): string => path.exec(text)?.[0] ?? "no link";

async function fits(): Promise<void> {
  const wrong = [...(await family.misfits()), ...(await family.findings())];
  expect([await page(), wrong]).toEqual([await page(), []]);
}

/** The language and the side of writing of the page. */
const page = (): Promise<string[]> =>
  family.driver.executeScript(
    "return [document.documentElement.lang, document.documentElement.dir]",
  );

/** Fills in a field of a form by the name under which it is sent. */
async function fill(name: string, text: string): Promise<void> {
  await family.driver.findElement(By.css(`[name="${name}"]`)).sendKeys(text);
}

/** Sends the form, again where it asks to be looked over: a test is quicker than anybody. */
async function send(button: string, heading: string): Promise<void> {
  await family.click("button", button);
  await family.driver.wait(
    async () => {
      if ((await family.text()).includes(heading)) return true;
      if (!(await family.seesNot("button", button))) await family.click("button", button);
      return false;
    },
    WAIT,
    "the answer was not taken",
    1000,
  );
}

test("a coordinator makes a form, in English alone", async () => {
  await beginWithRoster(juno());
  await juno().go("/sources");
  await juno().click("link", "Sign-up forms");
  await juno().click("button", "Make a form");
  await juno().type("Title", "Autumn sign-up");
  await juno().click("button", "Make the form");
  await juno().see("heading", "Notice to print");
  const { rows } = await house.stack.amigo.context.db.execute<{ id: string }>(
    sql`update list set rules = rules || '{"outside": "any"}' where title = 'Wire Walk, guardians' and closed_at is null returning id`,
  );
  listId = rows[0]?.id ?? "";
});

/** What a family reads on its way, in two languages that differ in everything. */
const WAYS = [
  {
    language: "ar",
    width: 360,
    address: "mona.haddad@brightpost.example",
    name: "منى حداد",
    words: {
      send: "إرسال",
      sent: "انظروا في بريدكم",
      confirm: "يرجى التأكيد",
      mine: "نعم، هذا الرد مني",
      thanks: "شكرًا",
      welcome: "مرحبًا بكم في Wire Walk",
      yourLists: "قوائمكم لدى",
      open: "فتح صفحتي",
      because: "السبب:",
      leave: "مغادرة",
      leaveNow: "مغادرة Wire Walk, guardians",
      noList: "لستم في أي قائمة",
    },
  },
  {
    language: "pl",
    width: 1280,
    address: "jagoda.wisniewska@fernpost.example",
    name: "Jagoda Wiśniewska",
    words: {
      send: "Wyślij",
      sent: "Proszę zajrzeć do skrzynki",
      confirm: "Prosimy o potwierdzenie",
      mine: "Tak, ta odpowiedź jest moja",
      thanks: "Dziękujemy",
      welcome: "Witamy na liście Wire Walk",
      yourLists: "Państwa listy",
      open: "Otwórz moją stronę",
      because: "Powód:",
      leave: "Opuść …",
      leaveNow: "Opuść Wire Walk, guardians",
      noList: "Nie ma Państwa na żadnej liście",
    },
  },
] as const;

describe.each(WAYS)(
  "a family that reads $language",
  ({ language, width, address, name, words }) => {
    const expected = [language, isRightToLeft(language) ? "rtl" : "ltr"];

    test("fills in the form and confirms it", async () => {
      await family.reads(language);
      if (width < 500) await family.narrow(width, 760);
      else await family.emulate(width, 800, "light");
      await family.go("/f/autumn-sign-up");
      await family.see("button", words.send);
      expect(await page()).toEqual(expected);
      await fits();
      await fill("given", "Ida");
      await fill("family", "Marchetti");
      await fill("class", "Wire");
      await fill("name", name);
      await fill("address", address);
      await family.driver.findElement(By.css('[name="consent"]')).click();
      await send(words.send, words.sent);
      const mail = await mailTo(address, words.confirm);
      await family.go(linkIn(mail, /\/f\/mine\/[\w-]+/));
      await fits();
      await family.click("button", words.mine);
      await family.see("heading", words.thanks);
      expect(await page()).toEqual(expected);
      await fits();
    });

    test("is welcomed to a list", async () => {
      await juno().go(`/lists/${listId}`);
      const [status, said] = await juno().driver.executeAsyncScript<[number, string]>(
        `const [id, address, done] = arguments;
       fetch("/api/lists/" + id + "/members", { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ addresses: [address], how: "welcome", reason: "New here" }) }).then(async (answer) => done([answer.status, await answer.text()]));`,
        listId,
        address,
      );
      expect([status, said]).toEqual([200, expect.stringContaining('"added":1')]);
      const mail = await mailTo(address, words.welcome);
      expect(mail).toContain("/member");
      expect(mail).not.toMatch(/Hello|this address|This mail/);
    });

    test("opens its page by a mailed link, and leaves", async () => {
      await family.driver.manage().deleteAllCookies();
      await family.go("/member");
      await family.driver.wait(async () => (await page())[0] === language, WAIT);
      expect(await page()).toEqual(expected);
      await fits();
      await family.driver.findElement(By.css("main input")).sendKeys(address);
      await family.driver.findElement(By.css("main form button")).click();
      const mail = await mailTo(address, words.yourLists);
      await family.go(linkIn(mail, /\/member\/[\w-]{20,}/));
      await family.click("button", words.open);
      await family.read(words.because);
      expect(await page()).toEqual(expected);
      await fits();
      await family.click("button", words.leave);
      await family.click("button", words.leaveNow);
      await family.read(words.noList);
      await fits();
    });
  },
);

test("a member chooses another language, for the page and for every mail from then on", async () => {
  await family.driver.findElement(By.css("main select option[value=uk]")).click();
  await family.read("Вас немає в жодному списку");
  expect(await page()).toEqual(["uk", "ltr"]);
  const { rows } = await house.stack.amigo.context.db.execute(
    sql`select address, language from address_language where known_by = 'choice'`,
  );
  expect(rows).toEqual([{ address: WAYS[1].address, language: "uk" }]);
});

test("the page by which a link is asked for has no findings in any language", async () => {
  for (const language of FAMILY_LANGUAGES) {
    await family.driver.manage().deleteAllCookies();
    await family.reads(language);
    await family.narrow(360, 760);
    await family.go("/member");
    await family.driver.wait(async () => (await page())[0] === language, WAIT);
    await fits();
    await family.go("/f/autumn-sign-up");
    expect((await page())[0]).toBe(language);
    await fits();
  }
});
