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

  test("the coordinator sees what receivers report, mail by week, and how the key that signs is changed", async () => {
    const { person } = house;
    const now = Math.floor(Date.now() / 1000);
    const report = `<feedback><report_metadata><report_id>r1</report_id><date_range><begin>${now - 172_800}</begin><end>${now - 86_400}</end></date_range></report_metadata><policy_published><domain>lists.copperwheel.example</domain></policy_published><record><row><source_ip>203.0.113.9</source_ip><count>14</count><policy_evaluated><disposition>reject</disposition><dkim>fail</dkim><spf>fail</spf></policy_evaluated></row></record></feedback>`;
    const transport = nodemailer.createTransport({
      ...{ host: "127.0.0.1", port: house.stack.amigo.ports.incoming, ignoreTLS: true },
    });
    await transport.sendMail({
      ...{ from: "reports@oakmail.example", to: "postmaster@lists.copperwheel.example" },
      ...{ subject: "Report", text: "", attachments: [{ filename: "r.xml", content: report }] },
    });
    transport.close();
    await person.go("/house?tab=mail");
    await person.read("14 mails, 14 refused or put aside");
    await person.read("Neither signed by you nor sent from a machine in your SPF record.");
    await person.click("button", "Make a new key");
    await person.read("amigo2._domainkey.lists.copperwheel.example");
    const sign = await person.see("button", "Sign with amigo2");
    expect(await sign.isEnabled(), "not before its record is there").toBe(false);
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Remove the key amigo2");
    await person.seesNot("button", "Sign with amigo2");
    await person.go("/reach");
    await person.read("Mail by week");
    await person.read("posts in twelve weeks");
    expect(await person.findings()).toEqual([]);
  });

  test("what pauses all mail is on every page, and recurring work is done when she says so", async () => {
    const { person } = house;
    await person.go("/house?tab=mail");
    await person.click("button", "Pause sending");
    await person.go("/people");
    await person.read("paused by Juno Abara");
    await person.click("link", "No mail goes out");
    await person.click("button", "Resume sending");
    await person.go("/house?tab=system");
    await person.read("Amigo makes no backups");
    await person.click("button", "Look again");
    await person.read("This machine and the database have the same time.");
    expect(await person.findings()).toEqual([]);
    await person.go("/house?tab=jobs");
    await person.click("button", "Run now: Send digests");
    await person.read("done in");
    expect(await person.findings()).toEqual([]);
  });
});
