import { join } from "node:path";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { afterAll, afterEach, beforeAll, expect } from "vitest";
import { Person } from "./browser";
import { startStack, type Stack } from "./stack";

/**
 * A demo house of its own for one test file, with somebody at a browser before its door. A test that fails
 * leaves a picture and the page's console; one that passes must have left no error in the console.
 *
 * @returns an object whose parts are there from the first test on
 */
export function openHouse(): { stack: Stack; person: Person } {
  const house = {} as { stack: Stack; person: Person };
  beforeAll(async () => {
    house.stack = await startStack();
    house.person = await Person.open(house.stack.url);
  });
  afterAll(async () => {
    await house.person?.close();
    await house.stack?.close();
  });
  afterEach(async ({ task }) => {
    if (task.result?.state === "fail")
      await house.person.leaveEvidence(task.name.replace(/\W+/g, "-").slice(0, 60));
    else expect(await house.person.errors()).toEqual([]);
  });
  return house;
}

/** Signs in as the coordinator, reads the sample roster and brings its lists in step: what most stories begin with. */
export async function beginWithRoster(juno: Person): Promise<void> {
  await juno.read("This is a demo school");
  await juno.click("button", "Juno Abara");
  await juno.read("Lists come out of your roster");
  await juno.go("/sources");
  await juno.read("Drop the roster here");
  await juno.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
  await juno.click("button", "Import 220 students");
  await juno.click("button", "Bring 30 lists in step");
  await juno.read("No round is open");
}
