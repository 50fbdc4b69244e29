import { afterAll, beforeAll, describe, expect, test } from "vitest";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  await house.readLines(
    juno,
    [
      HEAD,
      ...Array.from(
        { length: 70 },
        (_, at) =>
          `CW-${at + 1},Łoziński${at},Ida,Mill Loft,Trapeze Two,Ravi Lindqvist,Kim Ł${at},k${at}@oakmail.example`,
      ),
      "CW-99,Moor,Kai,Big Barn,Acro Pairs,Sunniva Hale,Ana Moor,n/a",
    ],
    { name: "Roster" },
  );
  await house.step(juno);
});
afterAll(() => house.close());

async function fetchPdf(
  client: Client,
  path: string,
): Promise<{ status: number; text: string; pages: number; size: string }> {
  const response = await fetch(`${house.url}${path}`, { headers: { Cookie: client.cookie } });
  const text = Buffer.from(await response.arrayBuffer()).toString("latin1");
  return {
    status: response.status,
    text,
    pages: [...text.matchAll(/\/Type \/Page\b/g)].length,
    size: /\/MediaBox \[0 0 ([\d.]+ [\d.]+)\]/.exec(text)?.[1] ?? "",
  };
}

describe("sheets to print", () => {
  test.each(["class-list", "team-sheet"])(
    "a %s of 70 children goes over pages, on the paper that is asked for",
    async (sheet) => {
      const path = `/api/print/${encodeURIComponent("class:trapeze two")}/${sheet}.pdf`;
      const found = await fetchPdf(juno, path);
      expect([found.status, found.size]).toEqual([200, "595.28 841.89"]);
      expect(found.text.startsWith("%PDF-")).toBe(true);
      expect(found.pages).toBeGreaterThan(1);
      expect((await fetchPdf(juno, `${path}?paper=Letter`)).size).toBe("612 792");
    },
  );

  test("a school in the United States prints on Letter by itself", async () => {
    await house.amigo.context.connection.pool.query("update house set country = 'US'");
    expect((await fetchPdf(juno, "/api/print/class%3Atrapeze%20two/class-list.pdf")).size).toBe(
      "612 792",
    );
    await house.amigo.context.connection.pool.query("update house set country = 'GB'");
  });

  test("the members of a list, for whoever sees them", async () => {
    const { body } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=trapeze two guardians");
    const path = `/api/lists/${body[0]?.id ?? ""}/members.pdf`;
    expect((await fetchPdf(juno, path)).status).toBe(200);
    const stranger = await house.signIn("teo.bramwell@copperwheel.example");
    expect((await fetchPdf(stranger, path)).status).toBe(404);
    expect((await fetchPdf(house.client(), path)).status).toBe(401);
  });

  test("a coach prints the own class and no other; a site coordinator those of the site", async () => {
    const ravi = await house.signIn(RAVI);
    const odile = await house.signIn(ODILE);
    const of = (name: string): string =>
      `/api/print/${encodeURIComponent(`class:${name}`)}/team-sheet.pdf`;
    expect((await fetchPdf(ravi, of("trapeze two"))).status).toBe(200);
    expect((await fetchPdf(ravi, of("acro pairs"))).status).toBe(404);
    expect((await fetchPdf(odile, of("trapeze two"))).status).toBe(200);
    expect((await fetchPdf(odile, of("acro pairs"))).status).toBe(404);
    expect((await fetchPdf(juno, of("no such class"))).status).toBe(404);
  });
});
