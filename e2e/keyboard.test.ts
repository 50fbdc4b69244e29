import { Key } from "selenium-webdriver";
import { describe, expect, test } from "vitest";
import { until } from "@amigo/server/testing/testHouse";
import { openHouse } from "./openHouse";

const house = openHouse();

describe("without a mouse", () => {
  test("she signs in, reads the sheet and brings the lists in step", async () => {
    await house.person.read("This is a demo school");
    expect(await house.person.focused()).toContain("Juno Abara");
    await house.person.press(Key.ENTER);
    await house.person.read("Lists come out of your roster");
    await house.person.goBy("Sources");
    await house.person.read("Drop the roster here");
    await house.person.tabTo("autumn-roster.xlsx");
    await house.person.press(Key.ENTER);
    await house.person.see("button", "Import 220 students");
    await house.person.press("n");
    await house.person.see("status", "Row 11, column H");
    await house.person.tabTo('Column "Class(es)" holds');
    await house.person.press(Key.SPACE);
    await house.person.see("option", "Not used");
    await house.person.press(Key.ESCAPE);
    await house.person.tabTo("Import 220 students");
    await house.person.press(Key.ENTER);
    await house.person.read("32 students, 50 parents, 3 new lists");
    await house.person.press("s");
    expect(await house.person.focused()).toContain("Bring 30 lists in step");
    await house.person.press(Key.ENTER);
    await house.person.see("status", "30 lists brought in step");
  });

  test("the focus can be seen wherever it is", async () => {
    await house.person.goBy("Board");
    await house.person.read("all in step");
    for (let press = 0; press < 12; press++) {
      await house.person.press(Key.TAB);
      const outline = await house.person.driver.executeScript<string>(
        "const style = getComputedStyle(document.activeElement); return style.outlineStyle + ' ' + style.outlineWidth",
      );
      expect(outline, await house.person.focused()).toMatch(/^(solid|auto) [1-9]/);
    }
  });

  test("she writes to a list from the board, and it arrives", async () => {
    await house.person.driver.executeScript("document.querySelector('a[data-cell]').focus()");
    await house.person.press(Key.ARROW_RIGHT);
    await house.person.press("w");
    await house.person.see("heading", "Write");
    await house.person.read("35 addresses in 20 families");
    expect(await house.person.focused()).toBe("Subject");
    await house.person.press("Mats", Key.TAB, "Bring mats.");
    await house.person.chord(Key.CONTROL, Key.ENTER);
    await house.person.read("35 delivered");
    await until(
      "the letters",
      () => house.stack.town.boxes.all().filter(({ letters }) => letters === 1).length,
      (count) => count === 35,
    );
  });

  test("the keys are told by a key, and dialogs close by one", async () => {
    await house.person.press("?");
    await house.person.see("dialog", "brings the lists in step");
    await house.person.press(Key.ESCAPE);
    await house.person.driver.wait(async () => house.person.seesNot("dialog", "Keys"), 5000);
    await house.person.press("/");
    await house.person.see("dialog", "");
    await house.person.type("Find", "zzzz");
    await house.person.read('Nothing here starts with "zzzz"');
    await house.person.press(Key.ESCAPE);
    await house.person.driver.wait(async () => house.person.seesNot("dialog", ""), 5000);
  });
});
