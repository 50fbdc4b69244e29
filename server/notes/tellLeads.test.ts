import { simpleParser } from "mailparser";
import { afterAll, beforeAll, expect, test } from "vitest";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { tellLeads } from "./tellLeads";

let house: TestHouse;
let juno: Client;
let source = "";

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const line = (at: number, coach = "Ravi Lindqvist"): string =>
  `CW-${at},Holm,Child${at},Mill Loft,Wire Walk,${coach},Otto Holm${at},otto${at}@lettr.example`;
const day = (after: number): Date => new Date(Date.now() + after * 86_400_000);

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  ({ source } = await house.readLines(juno, [HEAD, line(1), line(2)], { name: "Roster" }));
  await house.step(juno);
});
afterAll(() => house.close());

test("a lead is told by one short mail a day what has changed on their lists, and by whom nobody is named", async () => {
  const tell = (after: number) => tellLeads(house.amigo.context, day(after));
  expect((await Promise.all([tell(0), tell(0)])).sort()).toEqual([0, 1]);
  await until(
    "the mail to the lead",
    () => house.sink.mails.filter(({ to }) => to === RAVI),
    (mails) => mails.length === 1,
  );
  const [mail] = house.sink.mails.filter(({ to }) => to === RAVI);
  const parsed = await simpleParser(mail?.raw ?? "");
  expect([parsed.subject, parsed.headers.get("auto-submitted")]).toEqual([
    "3 of your lists changed",
    "auto-generated",
  ]);
  expect(parsed.text).toContain(
    "Wire Walk, guardians (ml-wire-parents-2627@lists.copperwheel.example)\n  2 joined; 2 addresses now",
  );
  expect(parsed.text).not.toContain("otto");
  await house.readLines(juno, [HEAD, line(1), line(2), line(3)], { id: source });
  await house.step(juno);
  expect(await tell(0)).toBe(0);
  expect(await tell(1)).toBe(1);
  expect(await tell(1)).toBe(0);
  expect(await tell(2)).toBe(0);
});
