import { join } from "node:path";
import { Key } from "selenium-webdriver";
import { expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { WAIT } from "./browser";
import { openHouse } from "./openHouse";

const house = openHouse();

/** What does not fit, after something was done on a phone. */
const fits = async (): Promise<void> => expect(await house.person.misfits()).toEqual([]);

test("the first day of a school on a phone: from the roster to a mail, by touch", async () => {
  const { person } = house;
  await person.narrow(390, 760);
  await person.read("This is a demo school");
  await person.click("button", "Juno Abara");
  await person.read("Lists come out of your roster");
  await fits();
  await person.click("button", "Import the first sheet");
  await person.read("Drop the roster here");
  await person.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
  await person.see("button", "Import 220 students");
  await fits();
  await person.click("button", "Import 220 students");

  // A first import reads by class; a class opens into its students, and a student into the evidence.
  await person.read("32 students, 50 parents, 3 new lists");
  await fits();
  await person.click("button", "Trapeze Two: 32 students");
  await person.click("button", "Mirela Achterberg");
  await person.see("heading", "Mirela Achterberg joined");
  expect(await person.seesNot("button", "Trapeze Two: 32 students")).toBe(true);
  await fits();
  await person.click("button", "Hold");
  await person.read("229 accepted, 1 on hold");
  await person.click("button", "All changes");
  await person.see("button", "Trapeze Two: 32 students");
  await person.click("button", "Bring 30 lists in step");
  await person.see("status", "brought in step");

  // The bar at the thumb leads to the board, whose classes are cards.
  await person.click("link", "Board", true);
  await person.read("1 change");
  await person.see("heading", "Trapeze Two");
  await fits();
  await person.click("button", "More");
  await person.see("dialog", "All places");
  await person.read("Coordinator");
  await fits();
  await person.press(Key.ESCAPE);

  await person.click("button", "Find", true);
  await person.press("trapeze guard");
  await person.click("option", "Trapeze Two, guardians");
  await person.read("Write to");
  await fits();
  await person.click("button", "Write to");
  await person.read("addresses in");
  await person.type("Subject", "Shoes");
  await person.type("Text", "Please bring indoor shoes.");
  await fits();
  await person.click("button", "Send to");
  await person.read("delivered");
  await person.driver.wait(async () => /[1-9]\d* delivered/.test(await person.text()), WAIT);
  await fits();
  await person.click("link", "All mail");
  await person.see("link", "Shoes");
  await fits();
}, 180_000);
