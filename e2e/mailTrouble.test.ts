import nodemailer from "nodemailer";
import { Key } from "selenium-webdriver";
import { describe, expect, test } from "vitest";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
const LIST = "ml-hoops-parents-2627@lists.copperwheel.example";

/** Hands in a mail from outside, and returns what was answered. */
async function handIn(from: string, to: string, subject: string): Promise<string> {
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: house.stack.amigo.ports.incoming,
    ignoreTLS: true,
  });
  try {
    return (await transport.sendMail({ from, to, subject, text: "Hello." })).response;
  } catch (failure) {
    return String(failure);
  } finally {
    transport.close();
  }
}

describe("a coordinator finds out what happened to mail", () => {
  test("a domain that refuses everybody is one decision on Reach, and nobody is stopped before", async () => {
    const { person, stack } = house;
    await beginWithRoster(person);
    for (const { address } of stack.town.boxes.all())
      if (address.endsWith("@lettr.example")) stack.town.boxes.setBehaviour(address, "refuses");
    await person.go("/mail/write");
    await person.type("To", "hoops gua");
    await person.see("option", "Hoops and Staff, guardians");
    await person.press(Key.ENTER);
    await person.type("Subject", "Spare hoops");
    await person.type("Text", "Who needs one?");
    await person.chord(Key.CONTROL, Key.ENTER);
    await person.click("link", "failed at once");
    await person.see("heading", "at lettr.example failed at once");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Keep sending to");
    await person.seesNot("heading", "failed at once");
    await person.read("No address fails");
  });

  test("everything about a mail is found by its address, and by the id in an answer", async () => {
    const { person } = house;
    const taken = await handIn("Ada Fenn <ada.fenn@oakmail.example>", LIST, "Hoops for sale");
    const id = /taken as ([0-9A-Z]{10})/.exec(taken)?.[1] ?? "";
    expect(await handIn("x@nowhere.example", LIST, "Unproven")).toContain("550 5.7.1");
    await handIn(
      "Juno Abara <juno.abara@oakmail.example>",
      LIST.replace("@", "+leads@"),
      "Pay this invoice",
    );
    await person.go("/mail?show=trace");
    await person.read("Hoops for sale");
    expect(await person.findings()).toEqual([]);
    await person.type("Trace mail", "ada.fenn@oakmail.example");
    await person.read("Returned: Hoops for sale");
    await person.go(`/mail?show=trace&q=${id}`);
    await person.read("Hoops for sale");
    await person.click("link", "Hoops and Staff, guardians");
    await person.read("Leads, helpers and coordinators may write to this list.");
    await person.go("/mail?show=trace&q=Unproven");
    await person.read("Refused");
    await person.go("/mail?show=trace&q=invoice");
    await person.read("Pay this invoice");
    await person.click("disclosure", "Details");
    await person.read("So the name isn't shown.");
  });

  test("a post says who on its list got no copy", async () => {
    const { person } = house;
    await person.go("/mail");
    await person.click("link", "Spare hoops");
    await person.read("Spare hoops");
    await person.read("not delivered");
  });
});
