import { sql } from "drizzle-orm";
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { Person, WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
const juno = (): Person => house.person;
const TOVE = "tove.newcomer@brightpost.example";

let phone: Person;
/** A student of the roster for whom no address of a guardian stands in any sheet. */
let child = { given: "", family: "", class: "" };

beforeAll(async () => {
  phone = await Person.open(house.stack.url);
  await phone.narrow(360, 740);
});
afterAll(() => phone?.close());

/** The family's own link in the newest letter that has one. */
async function familyLink(): Promise<string> {
  let found = "";
  await phone.driver.wait(
    async () => {
      found =
        (await house.stack.town.boxes.lettersOf(TOVE)).flatMap(
          ({ text }) => /\/f\/mine\/[\w-]+/.exec(text)?.[0] ?? [],
        )[0] ?? "";
      return found !== "";
    },
    WAIT,
    `no letter in ${TOVE} has the family's link`,
  );
  return found;
}

async function fitsPhone(): Promise<void> {
  expect(
    await phone.driver.executeScript(
      "return document.documentElement.scrollWidth <= window.innerWidth",
    ),
  ).toBe(true);
  expect(await phone.findings()).toEqual([]);
  expect(await phone.errors()).toEqual([]);
}

describe("from a form to the class's list", () => {
  test("the coordinator makes a form and sees it as families will", async () => {
    await beginWithRoster(juno());
    const { rows } = await house.stack.amigo.context.db.execute<{
      given: string;
      family: string;
      class: string;
    }>(sql`select name.value->>'given' as given, name.value->>'family' as family, class.value->>'name' as class from fact student
      join fact name on name.subject = student.subject and name.kind = 'name' and name.valid_until is null join fact own on own.subject = student.subject and own.kind = 'enrolment' and own.valid_until is null join fact class on class.subject = own.ref and class.kind = 'cohort' and class.valid_until is null and class.value->>'kind' = 'class'
      where student.kind = 'student' and student.valid_until is null and not exists (select 1 from fact tie join fact address on address.subject = tie.subject and address.kind = 'address' and address.valid_until is null where tie.kind = 'tie' and tie.ref = student.subject and tie.valid_until is null)
      order by student.subject limit 1`);
    child = rows[0] ?? child;
    expect(child.given).not.toBe("");
    await juno().go("/sources");
    await juno().click("link", "Sign-up forms");
    await juno().read("Let families tell you themselves");
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Make a form");
    await juno().type("Title", "Autumn sign-up");
    await juno().click("button", "Add a question");
    await juno().type("Question 1", "Costume size");
    await juno().type("Choices", "small, medium, large");
    await juno().driver.wait(
      async () =>
        juno().driver.executeScript(
          "const frame = document.querySelector('iframe'); const text = frame.contentDocument?.body?.innerText ?? ''; return text.includes('Autumn sign-up') && text.includes('Costume size') && frame.contentDocument.querySelectorAll('option').length > 10",
        ),
      WAIT,
      "the preview did not follow",
    );
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Make the form");
    await juno().see("heading", "Notice to print");
    await juno().read("/f/autumn-sign-up");
    await juno().driver.wait(
      async () =>
        juno().driver.executeScript(
          "const code = document.querySelector('img[alt^=\"Code that leads\"]'); return code?.complete && code.naturalWidth > 0",
        ),
      WAIT,
      "the code did not come",
    );
    expect(await juno().findings()).toEqual([]);
    await juno().click("tab", "Answers");
    await juno().read("No answers yet");
  });

  test("a family fills it in on a phone, by keys, and mends a mistyped address", async () => {
    await phone.go("/f/autumn-sign-up");
    await phone.see("heading", "Autumn sign-up");
    await fitsPhone();
    await phone.tabTo("Child's first name");
    await phone.press(
      child.given,
      Key.TAB,
      child.family,
      Key.TAB,
      child.class,
      Key.TAB,
      "Tove Newcomer",
      Key.TAB,
      TOVE.replace(".example", ",example"),
      Key.TAB,
    );
    await phone.see("status", TOVE);
    await phone.click("button", "Send");
    await phone.see("alert", "Please check some of your answers");
    await phone.read(`Did you mean ${TOVE}?`);
    await phone.read("Without this we may not keep your address.");
    await fitsPhone();
    await phone.click("checkbox", "The school may keep");
    // Keys sent by a test are quicker than anybody: then the form asks to be looked over, still filled in, and is sent again.
    await phone.driver.wait(
      async () => {
        await phone.tabTo("Send");
        await phone.driver.executeScript("document.body.dataset.before = 'yes'");
        await phone.press(Key.ENTER);
        await phone.driver.wait(
          async () =>
            phone.driver.executeScript(
              "return document.readyState === 'complete' && document.body.dataset.before === undefined",
            ),
          WAIT,
        );
        return (await phone.text()).includes("Look in your mailbox");
      },
      WAIT,
      "the answer was not taken",
    );
    await phone.see("heading", "Look in your mailbox");
    await phone.read(TOVE);
  });

  test("and says by the mailed link that the answer is hers", async () => {
    await phone.go(await familyLink());
    await phone.read("waits for your decision");
    await fitsPhone();
    await phone.click("button", "Yes, this answer is mine");
    await phone.see("heading", "Thank you");
    await fitsPhone();
  });

  test("then it is a cause, and one button brings her onto the class's list", async () => {
    await juno().go("/changes");
    await juno().read("Tove Newcomer");
    await juno().click("button", "list in step");
    await juno().read("No round is open");
    const { rows } = await house.stack.amigo.context.db.execute<{ title: string }>(
      sql`select list.title from membership join list on list.id = membership.list_id where address = ${TOVE} and valid_until is null`,
    );
    expect(rows.map(({ title }) => title)).toContain(`${child.class}, guardians`);
  });

  test("a sibling whom no sheet knows waits for the coordinator's word", async () => {
    await phone.go(await familyLink());
    await phone.click("link", "Add another child");
    await phone.type("Child's first name", "Bartholomea");
    await phone.tabTo("Class");
    await phone.press("Wire");
    await phone.click("checkbox", "The school may keep");
    await phone.click("button", "Send");
    await phone.see("heading", "Thank you");
    await juno().go("/sources");
    await juno().click("link", "Sign-up forms");
    await juno().click("link", "Autumn sign-up");
    await juno().read(
      `No sheet has a child called Bartholomea ${child.family}. Is this a new child?`,
    );
    expect(await juno().findings()).toEqual([]);
    await juno().tabTo(`Accept, the answer for Bartholomea ${child.family}`);
    await juno().press(Key.ENTER);
    await juno().read("by Juno Abara");
    // The roster does not have her: that is asked once, as of any sheet.
    await juno().go("/people?show=questions");
    await juno().read(`Bartholomea ${child.family}`);
    await juno().click("button", "A student here", true);
    await juno().read("No question is open");
    await juno().go("/changes");
    await juno().read(`Bartholomea ${child.family}`);
  });

  test("a day later she changes her answer; the newest stands, the older is kept", async () => {
    await house.stack.amigo.context.db.execute(
      sql`update form_answer set at = at - interval '1 day'`,
    );
    await phone.go(await familyLink());
    await phone.driver.executeScript(
      "[...document.querySelectorAll('.answer')].find((own) => own.textContent.includes(arguments[0])).querySelector('a').click()",
      child.given,
    );
    await phone.tabTo("Costume size");
    await phone.press("large");
    await phone.click("button", "Send");
    await phone.see("heading", "Thank you");
    await juno().go("/forms");
    await juno().click("link", "Autumn sign-up");
    await juno().read("replaces 1 older answer");
    await juno().click("button", `Show all, the answer for ${child.given}`);
    await juno().read("Earlier answers");
    await juno().click("link", "As a sheet");
    await juno().read("2 rows, 0 set aside");
  });

  test("who has not answered can be written to, as a private list", async () => {
    await juno().go("/forms");
    await juno().click("link", "Autumn sign-up");
    await juno().click("tab", "No answer yet");
    await juno().read("of 220 students");
    await juno().click("button", "Write to");
    await juno().see("heading", "Write");
    await juno().read("Autumn sign-up, not answered");
  });

  test("a form of somebody else's wishes is told in a sentence, and closed for families when its time is over", async () => {
    await juno().go("/forms");
    await juno().click("link", "Autumn sign-up");
    await juno().click("tab", "The form");
    await juno().type("Short address", "mine");
    await juno().click("button", "Save changes");
    await juno().see("alert", "This word is taken");
    await juno().type("Short address", "autumn");
    await juno().type("Last day", "31/1/202");
    await juno().press(Key.TAB);
    await juno().see("alert", "This can't be read as a day");
    await juno().type("Last day", "31/1/2026");
    await juno().click("button", "Save changes");
    await juno().see("status", "Form saved.");
    await phone.go("/f/autumn");
    await phone.read("This form is closed");
  });
});
