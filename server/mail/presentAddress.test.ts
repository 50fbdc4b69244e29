import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { House } from "@amigo/contract/house";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

const OLD = "lists.copperwheel.example";
const NEW = "post.copperwheel.example";
const NAME = "ml-wire-parents-2627";

let house: TestHouse;
let juno: Client;
beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());

const shown = async (): Promise<House> => (await juno.ask<House>("GET", "/api/house")).body;
const move = async (listDomain: string, graceDays: number): Promise<string[]> => {
  const { name, kind, insideDomain, timeZone, country, language, studentAddress, versions } =
    await shown();
  const { status, body } = await juno.ask<{ follows: string[] }>("PUT", "/api/house/basics", {
    ...{ house: name, kind, insideDomain, listDomain, timeZone, country, language, studentAddress },
    ...{ codes: {}, version: versions.basics, graceDays },
  });
  expect(status).toBe(200);
  return body.follows;
};
const write = (to: string, subject: string) => house.mail({ from: JUNO, to, subject, as: JUNO });
const arrived = (subject: string): number =>
  house.sink.mails.filter(({ raw }) => raw.includes(`Subject: ${subject}`)).length;

describe("a list domain that is changed", () => {
  test("still takes mail at the one before until a day, and sends it on as from the new one", async () => {
    const follows = await move(NEW, 30);
    expect(follows[1]).toMatch(
      /Mail to @lists\.copperwheel\.example still reaches your lists until/,
    );
    expect((await shown()).formerDomains.map(({ domain }) => domain)).toEqual([OLD]);
    await write(`${NAME}@${OLD}`, "To the old address");
    await write(`${NAME.toUpperCase()}@${OLD.toUpperCase()}`, "In capitals");
    await until(
      "both to arrive",
      () => Math.min(arrived("To the old address"), arrived("In capitals")),
      (least) => least > 20,
    );
    const copy = house.sink.mails.find(({ raw }) => raw.includes("Subject: To the old address"));
    expect(copy?.raw).toContain(`List-Id: "Wire Walk, guardians" <${NAME}.${NEW}>`);
    expect(copy?.from).toMatch(new RegExp(`@${NEW}$`));
  });

  test("gives one copy to each, where a mail names the list at both domains", async () => {
    await house.mail({
      ...{ from: JUNO, as: JUNO, subject: "Both" },
      to: `${NAME}@${OLD}, ${NAME}@${NEW}`,
    });
    await until(
      "copies",
      () => arrived("Both"),
      (count) => count > 20,
    );
    const to = house.sink.mails
      .filter(({ raw }) => raw.includes("Subject: Both"))
      .map((mail) => mail.to);
    expect(new Set(to).size).toBe(to.length);
  });

  test("refuses what isn't there at the one before, and all of it after the last day", async () => {
    await expect(write(`nobody-here@${OLD}`, "x")).rejects.toThrow("550");
    await house.amigo.context.db.execute(sql`update former_domain set last_day = current_date - 2`);
    await expect(write(`${NAME}@${OLD}`, "Too late")).rejects.toThrow("550");
    expect((await shown()).formerDomains).toEqual([]);
  });

  test("ends at once where that is wanted, and is whole again when it is changed back", async () => {
    expect((await move(OLD, 0))[1]).toBe(`Mail to @${NEW} is no longer accepted.`);
    await expect(write(`${NAME}@${NEW}`, "x")).rejects.toThrow("550");
    await write(`${NAME}@${OLD}`, "Back again");
    await until(
      "copies",
      () => arrived("Back again"),
      (count) => count > 20,
    );
    expect((await shown()).formerDomains).toEqual([]);
  });
});
