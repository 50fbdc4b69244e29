import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { DateFile } from "@amigo/contract/dates";
import { removeLooseFiles } from "./fileQueries";
import { dayFromNow, HEAD, startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { ODILE, RAVI, type Client } from "../testing/testHouse";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
];
let dates: DatesHouse;
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, dayFromNow(12));
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

async function upload(
  name: string,
  content: string | Uint8Array<ArrayBuffer> = `This is ${name}`,
  client: Client = dates.juno,
): Promise<{ status: number; body: DateFile & { detail?: string } }> {
  const form = new FormData();
  form.set("file", new File([content], name, { type: "text/html" }));
  const response = await fetch(`${dates.house.url}/api/dates/files`, {
    method: "POST",
    body: form,
    headers: { Cookie: client.cookie, Origin: dates.house.url },
  });
  return { status: response.status, body: (await response.json()) as DateFile };
}
const get = (path: string, client?: Client): Promise<Response> =>
  fetch(
    path.startsWith("http") ? path : `${dates.house.url}${path}`,
    client === undefined ? {} : { headers: { Cookie: client.cookie } },
  );

describe("files of a date", () => {
  test("are linked in each guest's mail and calendar, and opened by the guest's link alone", async () => {
    const { body: plan } = await upload("Seating <plan>.html", "<script>alert(1)</script>");
    expect(plan).toMatchObject({ name: "Seating _plan_.html", size: 25 });
    await dates.make({ title: "Gala", files: [plan.id] });
    const mails = await dates.got("Invitation: Gala", 2);
    const oak = mails.get("oak@oakmail.example");
    const link = String(oak?.event.getFirstPropertyValue("attach"));
    expect(link).toBe(`${dates.house.url}/date/${oak?.token}/files/${plan.id}`);
    expect(oak?.mail.text).toContain(`Seating _plan_.html\n  ${link}`);
    const sent = await get(link);
    expect([sent.status, await sent.text()]).toEqual([200, "<script>alert(1)</script>"]);
    // Whatever it is, it is saved, never shown as a page of Amigo's.
    expect(sent.headers.get("content-type")).toBe("application/octet-stream");
    expect(sent.headers.get("content-disposition")).toMatch(/^attachment;/);
    const page = await (await get(`/date/${oak?.token}`)).text();
    expect(page).toContain(`/date/${oak?.token}/files/${plan.id}`);
    expect((await get(`/date/${"0".repeat(40)}/files/${plan.id}`)).status).toBe(404);
    expect((await get(`/date/${oak?.token}/files/not-an-id`)).status).toBe(404);
    expect((await get(`/date/${oak?.token}/files/${crypto.randomUUID()}`)).status).toBe(404);
  });

  test("can be changed, which everybody hears of, and stay where a change says nothing of them", async () => {
    const [one, other] = [(await upload("one.txt")).body, (await upload("other.txt")).body];
    const id = await dates.make({ title: "Fair", files: [one.id] });
    await dates.got("Invitation: Fair", 2);
    const change = async (files: string[] | undefined, place = "Mill Loft") => {
      const { sequence } = await dates.pageOf(id);
      const content = dates.contentOf({ title: "Fair", place });
      return dates.juno.ask("PUT", `/api/dates/${id}`, {
        ...content,
        ...(files === undefined ? {} : { files }),
        sequence,
      });
    };
    await change(undefined, "Big Barn");
    expect((await dates.pageOf(id)).files.map(({ name }) => name)).toEqual(["one.txt"]);
    await dates.got("Changed: Fair", 2);
    dates.turnPage();
    await change([other.id], "Big Barn");
    const told = (await dates.got("Changed: Fair", 2)).get("elm@oakmail.example");
    expect(told?.mail.text).toContain("the files");
    expect(told?.mail.text).toContain("other.txt");
    expect((await get(`/api/dates/files/${one.id}`, dates.juno)).status).toBe(404);
    const { sequence } = await dates.pageOf(id);
    await change([other.id], "Big Barn");
    expect((await dates.pageOf(id)).sequence).toBe(sequence);
  });

  test("are opened by those who see the date; somebody else's can't be taken", async () => {
    const odile = await dates.house.signIn(ODILE);
    const ravi = await dates.house.signIn(RAVI);
    const { body: file } = await upload("rota.txt");
    expect((await get(`/api/dates/files/${file.id}`, dates.juno)).status).toBe(200);
    expect((await get(`/api/dates/files/${file.id}`, odile)).status).toBe(404);
    expect((await get(`/api/dates/files/${file.id}`)).status).toBe(401);
    const stolen = await dates.make({ title: "Theft", files: [file.id] }, odile);
    expect((await dates.pageOf(stolen, odile)).files).toEqual([]);
    const id = await dates.make({ title: "Rota", files: [file.id] });
    expect((await get(`/api/dates/files/${file.id}`, odile)).status).toBe(200);
    expect((await get(`/api/dates/files/${file.id}`, ravi)).status).toBe(404);
    // One that goes with a date can't be taken to another.
    const second = await dates.make({ title: "Second", files: [file.id] });
    expect((await dates.pageOf(second)).files).toEqual([]);
    expect((await dates.pageOf(id)).files).toHaveLength(1);
  });

  test("end for whoever leaves the list, at once", async () => {
    const { body: file } = await upload("map.txt");
    await dates.make({ title: "Hike", files: [file.id] });
    const elm = (await dates.got("Invitation: Hike", 2)).get("elm@oakmail.example");
    const link = `/date/${elm?.token}/files/${file.id}`;
    expect((await get(link)).status).toBe(200);
    await dates.house.readLines(dates.juno, [HEAD, ...ROSTER.slice(0, 1)], { id: dates.source });
    await dates.house.step(dates.juno);
    await dates.got("No longer invited: Hike", 1);
    expect((await get(link)).status).toBe(404);
  });

  test("have at most 15 MB, and are removed where nobody has put them on a date within a day", async () => {
    const { status, body } = await upload("film.mp4", new Uint8Array(15 * 1024 * 1024 + 1));
    expect([status, body.detail]).toEqual([422, expect.stringContaining("film.mp4")]);
    const { body: loose } = await upload("loose.txt");
    await removeLooseFiles(dates.house.amigo.context.db);
    expect((await get(`/api/dates/files/${loose.id}`, dates.juno)).status).toBe(200);
    await dates.house.amigo.context.db.execute(
      sql`update calendar_date_file set added_at = now() - interval '25 hours'`,
    );
    await removeLooseFiles(dates.house.amigo.context.db);
    expect((await get(`/api/dates/files/${loose.id}`, dates.juno)).status).toBe(404);
  });
});
