import { describe, expect, test } from "vitest";
import { codeAt } from "@amigo/server/twoStep/codes";
import { openHouse } from "./openHouse";

const house = openHouse();
const PASSWORD = "copperwheel-demo";
/** A step of 30 seconds later: a code that was not used yet. */
const LATER = 30_000;

/** The secret that the page shows to whoever can't scan the picture. */
async function shownSecret(): Promise<string> {
  const text = await house.person.driver.executeScript<string>(
    "return document.querySelector('[role=dialog] code').textContent",
  );
  return text.replace(/\s/g, "");
}

async function shownCodes(): Promise<string[]> {
  return house.person.driver.executeScript<string[]>(
    "return [...document.querySelectorAll('[aria-label=\"Recovery codes\"] li')].map((node) => node.textContent)",
  );
}

describe("two-step sign-in", () => {
  let secret = "";
  let codes: string[] = [];

  test("a coordinator sets up an app and is asked for its code", async () => {
    const { person } = house;
    await person.click("button", "Juno Abara");
    await person.see("navigation", "Places");
    await person.go("/account");
    await person.click("button", "Set up an app");
    await person.type("Your password", "not this one");
    await person.click("button", "Continue");
    await person.read("This is not your current password");
    await person.type("Your password", PASSWORD);
    await person.click("button", "Continue");
    await person.read("Scan the picture");
    secret = await shownSecret();
    await person.type("Code that the app shows", "12 34");
    await person.click("button", "Turn on codes");
    await person.read("This is not the code that the app shows now");
    await person.type("Code that the app shows", codeAt(secret, Date.now()));
    await person.click("button", "Turn on codes");
    await person.read("They are not shown again");
    codes = await shownCodes();
    expect(codes).toHaveLength(10);
    expect(await person.findings()).toEqual([]);
    await person.click("button", "I have kept them");
    await person.read("10 codes left");
    await person.click("button", "Sign out");
    await person.type("Email address", "juno.abara@copperwheel.example");
    await person.type("Password", PASSWORD);
    await person.click("button", "Sign in", true);
    await person.read("Second step");
    expect(await person.findings()).toEqual([]);
    await person.type("Code from your authenticator app", "000000");
    await person.click("button", "Sign in", true);
    await person.read("This code is not right");
    await person.type("Code from your authenticator app", codeAt(secret, Date.now() + LATER));
    await person.click("button", "Sign in", true);
    await person.see("navigation", "Places");
  });

  test("she adds a passkey, and signs in by it alone", async () => {
    const { person } = house;
    await person.holdPasskeys();
    await person.go("/account");
    await person.click("button", "Add a passkey");
    await person.type("Name of the passkey", "Laptop");
    await person.type("Your password", PASSWORD);
    await person.click("button", "Continue");
    await person.read("Passkey “Laptop”");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Sign out");
    await person.click("button", "Sign in with a passkey");
    await person.see("navigation", "Places");
  });

  test("she asks all coordinators for it; a colleague can do nothing before", async () => {
    const { person } = house;
    await person.go("/house?tab=people");
    await person.click("button", "Who needs two-step sign-in");
    await person.click("option", "coordinators and site coordinators");
    await person.see("button", "Who needs two-step sign-in: coordinators and site coordinators");
    await person.click("button", "Sign out");
    await person.click("button", "Odile Marchetti");
    await person.read("Odile Marchetti, your school asks your account for two-step sign-in");
    expect(await person.seesNot("navigation", "Places")).toBe(true);
    await person.click("button", "Set up an app");
    await person.type("Your password", PASSWORD);
    await person.click("button", "Continue");
    await person.read("Scan the picture");
    await person.type("Code that the app shows", codeAt(await shownSecret(), Date.now()));
    await person.click("button", "Turn on codes");
    await person.read("They are not shown again");
    const [code = ""] = await shownCodes();
    await person.click("button", "I have kept them");
    await person.see("navigation", "Places");
    await person.click("button", "Sign out");
    await person.click("button", "Odile Marchetti");
    await person.click("button", "Use a recovery code");
    await person.type("Recovery code", code);
    await person.click("button", "Sign in", true);
    await person.see("navigation", "Places");
  });
});
