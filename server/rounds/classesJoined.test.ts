import type { RoundChoices, RoundOutline } from "@amigo/contract/causes";
import { afterAll, beforeAll, expect, test } from "vitest";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1,Parent 2,Email 2";
/** Twelve children of each class: every second one has a brother or sister there, and the same parent; three have a second. */
const child = (name: string, at: number): string => {
  const family = `${name.slice(0, 3)}${"abcdef"[Math.floor(at / 2)] ?? ""}son`;
  const second = at < 6 && at % 2 === 0 ? `Otto ${family},otto.${family}@lettr.example` : ",";
  return `${name.slice(0, 2)}-${at},${family},${["Ida", "Bram"][at % 2] ?? ""},Mill Loft,${name},Ana ${family},ana.${family}@oakmail.example,${second}`;
};
const classes = async () => {
  const { body } = await juno.ask<RoundOutline>(
    "GET",
    `/api/rounds/${(await roundOf(juno)).number}/outline`,
  );
  return body.sections.map((section) => ({ key: section.key, classes: section.classes }));
};

test("a first import counts what each class gets, a small round later on does not", async () => {
  const rows = ["Wire Walk", "Hoops", "Acro Pairs"].flatMap((name) =>
    Array.from({ length: 12 }, (_, at) => child(name, at)),
  );
  const { source } = await house.readLines(juno, [HEAD, ...rows], { name: "Roster" });
  const [section] = await classes();
  expect(section?.key).toBe("classes");
  expect(section?.classes?.filter(({ name }) => name !== "")).toHaveLength(3);
  for (const name of ["Acro Pairs", "Hoops", "Wire Walk"])
    expect(section?.classes?.find((item) => item.name === name)).toMatchObject({
      // The class itself and its children.
      count: 13,
      accepted: 13,
      students: 12,
      others: 0,
      // Six families with one parent, three of them with a second.
      guardians: 9,
      newLists: 2,
    });
  const { body: choices } = await juno.ask<RoundChoices>(
    "GET",
    `/api/rounds/${(await roundOf(juno)).number}/choices`,
  );
  const names = Object.values(choices.lists);
  expect(names).toHaveLength(6);
  for (const name of names) expect(name).toMatch(/^ml-[a-z0-9]+-(parents-)?2627 \(new\)$/);
  await house.step(juno);
  await house.readLines(juno, [HEAD, ...rows, child("Hoops", 10).replace("Ho-10", "Ho-20")], {
    id: source,
  });
  expect(await classes()).toEqual([{ key: "joined", classes: null }]);
});
