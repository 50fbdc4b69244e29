import { afterAll, beforeAll, expect, test } from "vitest";
import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { JUNO, startTestHouse, type TestHouse } from "../testing/testHouse";
import { needCurrentSeason } from "./needCurrentSeason";
import { loadFacts } from "./queries";

let house: TestHouse;
beforeAll(async () => {
  house = await startTestHouse();
});
afterAll(() => house.close());

test("every stored fact has a value of the shape that its kind names", async () => {
  const juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  const { db } = house.amigo.context;
  const facts = await loadFacts(db, (await needCurrentSeason(db)).id);
  const unfit = [...facts.values()].filter(
    (fact) => !kindOf(fact).value.safeParse(fact.value).success,
  );
  expect(unfit).toEqual([]);
  const kinds = new Set([...facts.values()].map(({ kind }) => kind));
  for (const kind of ["student", "guardian", "staff", "name", "tie", "address", "recipe", "list"])
    expect(kinds).toContain(kind);
});
