import { Key } from "selenium-webdriver";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { until } from "@amigo/server/testing/testHouse";
import { Person } from "./browser";
import { startStack, type Stack } from "./stack";

let stack: Stack;
let juno: Person;

beforeAll(async () => {
  stack = await startStack();
  juno = await Person.open(stack.url);
});
afterAll(async () => {
  await juno?.close();
  await stack?.close();
});
afterEach(async ({ task }) => {
  if (task.result?.state === "fail") await juno.leaveEvidence(`keyboard-${task.name.replace(/\W+/g, "-").slice(0, 50)}`);
});

/** What has the focus, by its role and what it says. */
async function focused(): Promise<string> {
  return (await juno.driver.executeScript<string>("const node = document.activeElement; if (node === document.body) return ''; return (node.getAttribute('aria-label') || (node.labels && node.labels[0] && node.labels[0].textContent) || node.textContent || node.getAttribute('placeholder') || node.tagName).replace(/\\s+/g, ' ').trim()"));
}

/** Presses Tab until something that says so has the focus. */
async function tabTo(name: string): Promise<void> {
  for (let press = 0; press < 80; press++) {
    if ((await focused()).includes(name)) return;
    await juno.press(Key.TAB);
  }
  throw new Error(`Tab never came to "${name}"; it stopped at "${await focused()}"`);
}

async function goTo(place: string): Promise<void> {
  await juno.chord(Key.CONTROL, "k");
  await juno.type("Find", place);
  await juno.see("option", place);
  await juno.press(Key.ENTER);
}

describe("without a mouse", () => {
  test("she signs in, reads the sheet and brings the lists in step", async () => {
    await juno.read("This is the demo house");
    expect(await focused()).toContain("Juno Abara");
    await juno.press(Key.ENTER);
    await juno.read("Lists come out of your roster");
    await goTo("Sources");
    await juno.read("Drop the roster here");
    await tabTo("autumn-roster.xlsx");
    await juno.press(Key.ENTER);
    await juno.see("button", "Read 220 students");
    await juno.press("n");
    await juno.see("status", "Row 11, column H");
    await tabTo("Column \"Class(es)\" holds");
    await juno.press(Key.SPACE);
    await juno.see("option", "Not read");
    await juno.press(Key.ESCAPE);
    await tabTo("Read 220 students");
    await juno.press(Key.ENTER);
    await juno.read("32 students, Trapeze Two");
    await juno.press("s");
    expect(await focused()).toContain("Bring 20 lists in step");
    await juno.press(Key.ENTER);
    await juno.see("status", "20 lists brought in step");
  });

  test("the focus can be seen wherever it is", async () => {
    await goTo("Board");
    await juno.read("all in step");
    for (let press = 0; press < 12; press++) {
      await juno.press(Key.TAB);
      const outline = await juno.driver.executeScript<string>("const style = getComputedStyle(document.activeElement); return style.outlineStyle + ' ' + style.outlineWidth");
      expect(outline, await focused()).toMatch(/^(solid|auto) [1-9]/);
    }
  });

  test("she writes to a list from the board, and it arrives", async () => {
    await juno.driver.executeScript("document.querySelector('a[data-cell]').focus()");
    await juno.press(Key.ARROW_RIGHT);
    await juno.press("w");
    await juno.see("heading", "Write");
    await juno.read("35 addresses in 20 families");
    expect(await focused()).toBe("Subject");
    await juno.press("Mats", Key.TAB, "Bring mats.");
    await juno.chord(Key.CONTROL, Key.ENTER);
    await juno.read("35 delivered");
    await until("the letters", () => stack.town.boxes.all().filter(({ letters }) => letters === 1).length, (count) => count === 35);
  });

  test("the keys are told by a key, and dialogs close by one", async () => {
    await juno.press("?");
    await juno.see("dialog", "brings the lists in step");
    await juno.press(Key.ESCAPE);
    await juno.driver.wait(async () => juno.seesNot("dialog", "Keys"), 5000);
    await juno.press("/");
    await juno.see("dialog", "");
    await juno.type("Find", "zzzz");
    await juno.read("Nothing here starts with \"zzzz\"");
    await juno.press(Key.ESCAPE);
    await juno.driver.wait(async () => juno.seesNot("dialog", ""), 5000);
  });
});
