import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from "vitest";
import { proven } from "../testing/openZone";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

const DOMAIN = "lists.copperwheel.example";
/** Two lists of one roster: one stays open, one is closed by the coordinator. */
const OPEN = "ml-wire-parents-2627";
const CLOSED = "bb-jugg1-parents-2627";
const LETTER = /Reply-To:\s+(\S+\+yes\.([0-9a-f]{40})@\S+)/i;

let house: TestHouse;
let juno: Client;

const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);
const asked = (address: string) => house.mailTo(address, "asked to leave");
const leaveMail = (address: string, list: string) =>
  house.mail({ from: address, to: `${list}+leave@${DOMAIN}` });

async function membersOf(list: string): Promise<string[]> {
  const { rows } = await run(
    sql`select address from membership join list on list.id = membership.list_id where list.name = ${list} and valid_until is null order by address`,
  );
  return rows.map(({ address }) => String(address));
}

/** Mails to an address whose subject says that it has left. */
const goodbyes = (address: string) =>
  house.sink.mails.filter(
    ({ to, raw }) => to === address && raw.includes("Subject: You have left"),
  );

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
  vi.restoreAllMocks();
});

describe("leaving by mail and the answer to it are one", () => {
  test("what fails leaves the member on the list, the link good and the answer unsent; the second try does all", async () => {
    const [address = ""] = await membersOf(OPEN);
    await leaveMail(address, OPEN);
    const [, back = ""] = LETTER.exec(await asked(address)) ?? [];
    const yes = {
      from: address,
      to: back,
      subject: "Re: Leave?",
      headers: { "Message-ID": "<yes-1@oakmail.example>" },
    };

    // As if the process had died once the mail was stored, before it was acknowledged.
    vi.spyOn(house.amigo.context.desk, "run").mockRejectedValueOnce(new Error("killed"));
    await expect(house.mail(yes)).rejects.toThrow(/^Message failed: 451/);
    expect(await membersOf(OPEN)).toContain(address);
    expect(goodbyes(address)).toEqual([]);

    await house.mail(yes);
    expect(await membersOf(OPEN)).not.toContain(address);
    await house.mailTo(address, "You have left");
    await house.mail(yes);
    expect(goodbyes(address)).toHaveLength(1);
  });

  test("a fault inside the change takes the whole of it back", async () => {
    const [address = ""] = await membersOf(OPEN);
    await leaveMail(address, OPEN);
    const [, back = "", token = ""] = LETTER.exec(await asked(address)) ?? [];
    await run(
      sql.raw(
        "create function refuse_end() returns trigger language plpgsql as $$ begin raise exception 'the disk is full'; end $$",
      ),
    );
    await run(
      sql.raw(
        "create trigger refuse_end before update on membership for each row execute function refuse_end()",
      ),
    );
    await expect(house.mail({ from: address, to: back })).rejects.toThrow(/451/);
    expect((await fetch(`${house.url}/leave/yes/${token}`)).status).toBe(200);
    await run(sql.raw("drop trigger refuse_end on membership"));
    expect(await membersOf(OPEN)).toContain(address);
    await house.mail({ from: address, to: back });
    expect(await membersOf(OPEN)).not.toContain(address);
    await house.mailTo(address, "You have left");
    expect(goodbyes(address)).toHaveLength(1);
  });
});

describe("a closed list says that it is closed, changes nothing, and takes the mail", () => {
  test("of a member who writes to leave, and of one who was asked before it closed", async () => {
    const [one = "", two = "", three = ""] = await membersOf(CLOSED);
    await leaveMail(two, CLOSED);
    const [, back = ""] = LETTER.exec(await asked(two)) ?? [];
    await leaveMail(three, CLOSED);
    const link = /\/leave\/yes\/[0-9a-f]{40}/.exec(await asked(three))?.[0] ?? "";
    await run(sql`update list set closed_at = now() where name = ${CLOSED}`);
    const before = await membersOf(CLOSED);
    house.sink.mails.length = 0;

    await leaveMail(one, CLOSED);
    expect(await house.mailTo(one, "is closed")).toContain("nothing to leave");
    await house.mail({ from: two, to: back, subject: "Re: Leave?" });
    expect(await house.mailTo(two, "is closed")).toContain("nothing to leave");
    const page = await fetch(`${house.url}${link}`, { method: "POST" });
    expect(page.status).toBe(200);
    expect(await page.text()).toContain("is closed");

    expect(house.sink.mails.some(({ raw }) => raw.includes("You have left"))).toBe(false);
    expect(await membersOf(CLOSED)).toEqual(before);
  });

  test("of somebody on the staff who has signed in to write", async () => {
    await run(
      sql`insert into membership (list_id, address, valid_from, origin) select id, ${JUNO}, now(), 'kept on' from list where name = ${CLOSED}`,
    );
    await house.mail({ from: JUNO, to: `${CLOSED}+leave@${DOMAIN}`, as: JUNO });
    await house.mailTo(JUNO, "is closed");
    expect(await membersOf(CLOSED)).toContain(JUNO);
  });

  test("to nobody who was never on it: a stranger learns only that there is nothing to leave", async () => {
    await proven(house, () => leaveMail("stranger@brightpost.example", CLOSED));
    const answer = await house.mailTo("stranger@brightpost.example", "nothing to leave");
    expect(answer).not.toContain("is closed");
  });
});

test("somebody who has signed in leaves at once, and is told once", async () => {
  await run(
    sql`insert into membership (list_id, address, valid_from, origin) select id, ${JUNO}, now(), 'kept on' from list where name = ${OPEN}`,
  );
  await house.mail({ from: JUNO, to: `${OPEN}+leave@${DOMAIN}`, as: JUNO });
  expect(await membersOf(OPEN)).not.toContain(JUNO);
  await house.mailTo(JUNO, "You have left");
  expect(goodbyes(JUNO)).toHaveLength(1);
});
