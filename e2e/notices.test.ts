import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { startPushStandIn, type PushStandIn } from "@amigo/server/testing/pushStandIn";
import { WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
let service: PushStandIn;
beforeAll(async () => {
  service = await startPushStandIn();
});
afterAll(() => service.close());

/** Gives this browser what a headless one lacks: leave to show notices, or none, and a push service that answers. */
const standIn = (permission: "granted" | "denied"): Promise<unknown> =>
  house.person.driver.executeScript(
    `const [made, permission] = arguments;
     let subscription = null;
     const on = (of, name, value) => Object.defineProperty(of, name, { value, configurable: true });
     Object.defineProperty(Notification, "permission", { get: () => "default", configurable: true });
     on(Notification, "requestPermission", async () => permission);
     on(PushManager.prototype, "getSubscription", async () => subscription);
     on(PushManager.prototype, "subscribe", async () => {
       subscription = { endpoint: made.endpoint, toJSON: () => made, unsubscribe: async () => { subscription = null; } };
       return subscription;
     });`,
    service.device(),
    permission,
  );

describe("notices on one's own devices", () => {
  test("are off until they are turned on, and say what to do where the browser doesn't allow them", async () => {
    const { person } = house;
    await beginWithRoster(person);
    await standIn("denied");
    await person.click("link", "Juno Abara");
    await person.click("button", "Turn on notices on this device");
    await person.see("alert", "Your browser did not allow notices");
    expect(await person.findings()).toEqual([]);
  });

  test("are turned on, tried and chosen one by one", async () => {
    const { person } = house;
    await standIn("granted");
    await person.click("button", "Turn on notices on this device");
    await person.see("checkbox", "Mail held for my decision");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Send a test");
    await person.see("status", "The test notice is on its way.");
    await person.driver.wait(() => service.messages.length === 1, WAIT, "no notice came");
    expect(service.messages[0]?.body).toMatchObject({ title: "This is a test" });
    await person.click("checkbox", "Requests that I decide on");
    await person.driver.wait(
      async () =>
        (
          await house.stack.amigo.context.db.execute(
            sql`select 1 from push_choice where not ('request' = any(topics))`,
          )
        ).rows.length === 1,
      WAIT,
      "the choice was not kept",
    );
  });

  test("end with the device", async () => {
    const { person } = house;
    await person.click("button", "Remove", true);
    await person.see("button", "Turn on notices on this device");
    // The page asks what there is once more before they go.
    await person.driver.wait(
      () => person.seesNot("checkbox", "Mail held for my decision"),
      WAIT,
      "the choice of notices didn't go",
    );
  });
});

describe("a mail in several languages", () => {
  test("says for how many a language is missing, and no more once it is written", async () => {
    const { person } = house;
    const { db } = house.stack.amigo.context;
    await db.execute(
      sql`insert into address_language (address, language, known_by)
        select address, 'ar', 'choice' from membership join list on list.id = list_id
        where title = 'Trapeze Two, guardians' and valid_until is null order by address limit 3`,
    );
    await person.go("/mail/write");
    await person.type("To", "Trapeze Two, guardians");
    await person.see("option", "Trapeze Two, guardians");
    await person.press("\uE007");
    await person.type("Subject", "Autumn show");
    await person.read("3 of these addresses read Arabic");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Add Arabic");
    await person.see("tab", "Arabic");
    await person.type("Subject", "عرض الخريف");
    await person.type("Text", "ندعوكم إلى العرض.");
    await person.driver.wait(
      async () => !(await person.text()).includes("read Arabic"),
      WAIT,
      "Arabic is still missing",
    );
    expect(await person.findings()).toEqual([]);
    await person.click("tab", "English");
    await person.type("Text", "You are invited to the show.");
    await person.click("button", "Send to");
    await person.see("heading", "Autumn show");
  });

  test("comes to each reader with their own language first", async () => {
    const { rows } = await house.stack.amigo.context.db.execute<{ address: string }>(
      sql`select address from address_language where language = 'ar' limit 1`,
    );
    const address = rows[0]?.address ?? "";
    let text = "";
    await house.person.driver.wait(
      async () => {
        const letters = await house.stack.town.boxes.lettersOf(address);
        text = letters.find(({ subject }) => subject.includes("عرض الخريف"))?.text ?? "";
        return text !== "";
      },
      WAIT,
      "the mail did not come",
    );
    expect(text.indexOf("ندعوكم")).toBeGreaterThan(-1);
    expect(text.indexOf("ندعوكم")).toBeLessThan(text.indexOf("You are invited"));
  });
});
