import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { LongAnswer, NDJSON } from "@amigo/contract/endpoint";
import {
  JUNO,
  proposedPlan,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { lockRounds } from "../change/roundQueries";
import { Desk } from "./desk";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
const large = [
  HEAD,
  ...Array.from(
    { length: 4000 },
    (_, at) =>
      `CW-${at},Holm,Child${at},Mill Loft,Class ${at % 40},Otto Holm${at},otto${at}@lettr.example`,
  ),
].join("\n");

function post(text: string, name: string, signal?: AbortSignal): Promise<Response> {
  const bytes = new TextEncoder().encode(text);
  const form = new FormData();
  form.set("file", new File([bytes], "large.csv"));
  form.set("plan", JSON.stringify(proposedPlan(bytes)));
  form.set("name", name);
  return fetch(`${house.url}/api/sources`, {
    method: "POST",
    headers: { Cookie: juno.cookie, Accept: NDJSON },
    body: form,
    ...(signal === undefined ? {} : { signal }),
  });
}

const lines = async (response: Response) =>
  (await response.text())
    .trim()
    .split("\n")
    .map((line) => LongAnswer.parse(JSON.parse(line)));
const names = async (): Promise<string[]> =>
  (await juno.ask<{ name: string }[]>("GET", "/api/sources")).body.map(({ name }) => name);

describe("a long request", () => {
  test("tells how far it is, step by step, and then the result", async () => {
    const said = await lines(
      await post(
        [HEAD, "CW-9001,Quist,Bram,Mill Loft,Wire Walk,Ana Quist,ana@lettr.example"].join("\n"),
        "Small",
      ),
    );
    const shares = said.flatMap((line) => ("progress" in line ? [line.progress.share] : []));
    expect(shares.length).toBeGreaterThan(4);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(said.at(-1)).toMatchObject({ answer: { students: 1, causes: 2 } });
  });

  test("that is refused says so in its last line", async () => {
    const said = await lines(await post("Item,Price\nRope,12", "Shelf"));
    expect(said.at(-1)).toMatchObject({ problem: { status: 422 } });
  });

  test("is stopped by hanging up: none of it is kept, and the next is done", async () => {
    const hangUp = new AbortController();
    const response = await post(large, "Stopped", hangUp.signal);
    const reader = response.body?.getReader();
    await reader?.read();
    hangUp.abort();
    await reader?.read().catch(() => undefined);
    const said = await lines(
      await post(
        [HEAD, "CW-9002,Quist,Ida,Mill Loft,Wire Walk,Ana Quist,ana@lettr.example"].join("\n"),
        "After",
      ),
    );
    expect(said.at(-1)).toMatchObject({ answer: { students: 1 } });
    expect(await names()).toEqual(["Small", "After"]);
  });

  test("leaves the pages free meanwhile", async () => {
    let done = false;
    const reading = post(large, "Large")
      .then(lines)
      .then((said) => {
        done = true;
        return said;
      });
    await until(
      "the reading to begin",
      () => juno.ask("GET", "/api/pulse"),
      ({ status }) => status === 200 && !done,
    );
    expect((await reading).at(-1)).toMatchObject({ answer: { students: 4000 } });
  });
});

describe("the desk", () => {
  test("shows what a change would do while another change is under way", async () => {
    const { db, desk } = house.amigo.context;
    let changed = false;
    let change: Promise<unknown> = Promise.resolve();
    await db.transaction(async (tx) => {
      // Whoever changes something waits for this.
      await lockRounds(tx);
      change = desk.run("reopenRound", undefined).then(() => {
        changed = true;
      });
      await until(
        "the change waits",
        async () =>
          (
            await db.execute<{ count: string }>(
              sql`select count(*) as count from pg_locks where locktype = 'advisory' and not granted and database = (select oid from pg_database where datname = current_database())`,
            )
          ).rows[0]?.count,
        (count) => Number(count) > 0,
      );
      const { body } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
      const columns = await desk.run("answerSheet", { sourceId: body[0]?.id ?? "", format: "csv" });
      const back = await desk.run("planTakeBack", { round: 4711 });
      expect([columns, back, changed]).toEqual([
        expect.objectContaining({ bytes: expect.anything() }),
        expect.objectContaining({ status: 404 }),
        false,
      ]);
    });
    await change;
    expect(changed).toBe(true);
  });

  test("stops what still waits in the queue, and what it is told once it is closed", async () => {
    const desk = new Desk(house.amigo.context.settings.databaseUrl);
    const stopped = new AbortController();
    const first = desk.run("reopenRound", undefined);
    const second = desk.run("reopenRound", undefined, { signal: stopped.signal });
    stopped.abort();
    expect(await second).toMatchObject({ detail: "This was stopped. Nothing of it was kept." });
    expect(await first).toHaveProperty("round");
    await desk.close();
    await expect(desk.run("reopenRound", undefined)).rejects.toThrow("Amigo is closing");
  });
});
