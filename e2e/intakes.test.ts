import { sql } from "drizzle-orm";
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { Person, WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
const juno = (): Person => house.person;
let ilse: Person;

beforeAll(async () => {
  ilse = await Person.open(house.stack.url);
});
afterAll(() => ilse?.close());

/** Goes to a cell of the grid by the mouse; keys go on from there. */
async function cell(person: Person, name: string): Promise<void> {
  const found = await person.see("gridcell", name);
  await person.driver.actions().move({ origin: found }).click().perform();
}

const onList = async (title: string): Promise<string[]> =>
  (
    await house.stack.amigo.context.db.execute<{ address: string }>(
      sql`select address from membership join list on list.id = membership.list_id where list.title = ${title} and valid_until is null`,
    )
  ).rows.map(({ address }) => address);

describe("an intake that several people fill", () => {
  test("the coordinator makes it and gives it to a colleague", async () => {
    await beginWithRoster(juno());
    await house.stack.amigo.context.db.execute(
      sql`update list set rules = rules || '{"outside": "any"}'::jsonb`,
    );
    await juno().click("link", "Additions");
    await juno().read("Let colleagues bring people in");
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Make a sheet");
    await juno().type("Name", "Harvest Show helpers");
    await juno().type("Find a colleague", "ilse");
    await juno().click("checkbox", "Ilse Tamm");
    await juno().type("Welcome", "Dear {first name|friend}, welcome to {list}.");
    await juno().click("button", "See it as somebody gets it");
    await juno().read("welcome to");
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Make the sheet");
    await juno().see("heading", "Harvest Show helpers");
    await juno().read("0 rows, 0 to approve");
    expect(await juno().findings()).toEqual([]);
  });

  test("a colleague pastes rows out of a spreadsheet, fills down and takes back, by keys", async () => {
    await ilse.click("button", "Ilse Tamm");
    await ilse.click("link", "Additions");
    await ilse.click("link", "Harvest Show helpers");
    await cell(ilse, "Person, row 1: empty");
    await ilse.paste(
      "Otto Bell\totto.bell@fernpost.example\tTrapeze Two\nUna Holm\tuna.holm@lettr,example\t\nPer Holm\tper.holm@oakmail.example\t",
    );
    await ilse.read("una.holm@lettr,example");
    await cell(ilse, "List or class, row 1: Trapeze Two");
    await ilse.driver
      .actions()
      .keyDown(Key.SHIFT)
      .sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN)
      .keyUp(Key.SHIFT)
      .perform();
    await ilse.chord(Key.CONTROL, "d");
    await ilse.see("gridcell", "List or class, row 3: Trapeze Two");
    await ilse.chord(Key.CONTROL, "z");
    await ilse.see("gridcell", "List or class, row 3: empty");
    await ilse.chord(Key.CONTROL, "y");
    await ilse.see("gridcell", "List or class, row 3: Trapeze Two");
    await cell(ilse, "Until, row 3: empty");
    await ilse.press("31.3.2090", Key.ENTER);
    await ilse.see("gridcell", "Until, row 3: 31.3.2090");
    await cell(ilse, "Address, row 2: ! una.holm@lettr,example");
    await ilse.read("Did you mean una.holm@lettr.example?");
    expect(await ilse.findings()).toEqual([]);
    expect(await ilse.seesNot("button", "Approve")).toBe(true);
  });

  test("the other sees each change within a moment, with who wrote it", async () => {
    await juno().read("3 rows, 3 to approve");
    await cell(juno(), "Person, row 1: Otto Bell");
    await cell(ilse, "Person, row 1: Otto Bell");
    await ilse.press("Otto W. Bell", Key.ENTER);
    await juno().read("Ilse Tamm edited row 1, Person.");
    await juno().see("gridcell", "Person, row 1: Otto W. Bell");
    await juno().click("button", "History of row 1");
    await juno().read("What Before After");
    await juno().read("Ilse Tamm Person Otto Bell Otto W. Bell");
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Close");
  });

  test("two who write in one cell at once: the second is told, and nothing is lost", async () => {
    await cell(ilse, "Person, row 2: Una Holm");
    await cell(juno(), "Person, row 2: Una Holm");
    // Ilse has not heard of Juno's change when hers is sent: it is on its way while Juno writes.
    await ilse.driver.executeScript(
      "window.realFetch = window.fetch; window.fetch = (url, init) => (String(url).endsWith('/cells') ? new Promise((resolve) => { window.letGo = () => resolve(window.realFetch(url, init)); }) : window.realFetch(url, init));",
    );
    await ilse.press("Una B. Holm", Key.ENTER);
    await ilse.driver.wait(
      async () => ilse.driver.executeScript("return typeof window.letGo === 'function'"),
      WAIT,
    );
    await juno().press("Una Marie Holm", Key.ENTER);
    await juno().see("gridcell", "Person, row 2: Una Marie Holm");
    await ilse.driver.executeScript("window.letGo(); window.fetch = window.realFetch;");
    await ilse.see("alert", "Juno Abara wrote here in the meantime.");
    await ilse.see("gridcell", "Person, row 2: Una Marie Holm");
  });

  test("the coordinator mends the address, approves, and each row says what happened to it", async () => {
    await cell(juno(), "Address, row 2: ! una.holm@lettr,example");
    await juno().click("button", "Use una.holm@lettr.example");
    await juno().see("gridcell", "Address, row 2: una.holm@lettr.example");
    await cell(juno(), "Person, row 1");
    await juno()
      .driver.actions()
      .keyDown(Key.SHIFT)
      .sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN)
      .keyUp(Key.SHIFT)
      .perform();
    await juno().click("button", "Approve 3 rows");
    await juno().read("On the list until 31 Mar 2090.");
    await ilse.read("On the list until 31 Mar 2090.");
    expect(await onList("Trapeze Two, guardians")).toEqual(
      expect.arrayContaining([
        "otto.bell@fernpost.example",
        "una.holm@lettr.example",
        "per.holm@oakmail.example",
      ]),
    );
    await juno().driver.wait(
      async () =>
        (await house.stack.town.boxes.lettersOf("otto.bell@fernpost.example")).some(({ text }) =>
          text.includes("Dear Otto, welcome to Trapeze Two, guardians."),
        ),
      WAIT,
      "the welcome did not come",
    );
  });

  test("the same person once more is there already, and is not mailed again", async () => {
    await cell(ilse, "Person, row 4: empty");
    await ilse.paste("Otto Bell\totto.bell@fernpost.example\ttrapeze two, guardians");
    await juno().read("4 rows, 1 to approve");
    await cell(juno(), "Person, row 4: Otto Bell");
    await juno().press(" ");
    await juno().read("nothing was mailed");
    expect((await house.stack.town.boxes.lettersOf("otto.bell@fernpost.example")).length).toBe(1);
    await cell(ilse, "Person, row 1: Otto W. Bell");
    await ilse.press("x", Key.ENTER);
    await ilse.see("gridcell", "Person, row 1: Otto W. Bell");
    await juno().driver.executeScript("window.scrollTo(0, 0)");
    expect(await juno().findings()).toEqual([]);
  });
});
