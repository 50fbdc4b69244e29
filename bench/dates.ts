import { sql } from "drizzle-orm";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { keepGuestsInStep } from "@amigo/server/dates/keepGuestsInStep";
import { Deliverer } from "@amigo/server/mail/deliver";
import { sendPlanned } from "@amigo/server/drafts/sendPlanned";
import {
  JUNO,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "@amigo/server/testing/testHouse";

const DATES = 500;
const GUESTS = 5_000;
const LISTS = 2_000;
const ASKED = 300;

/**
 * Measures dates: asking for a calendar that hasn't changed beside asking for an empty one, inviting many beside a post to as many,
 * and what a program is told of an address book of many lists after one of them changed beside all of it.
 */
export async function measureDates(): Promise<void> {
  const house = await startTestHouse({ roles: "web" });
  const juno = await house.signIn(JUNO);
  try {
    await makeRoster(house, juno);
    await measureFeed(house, juno);
    await measureInviting(house, juno);
    await measureAddressBook(house, juno);
  } finally {
    await house.close();
  }
}

async function makeRoster(house: TestHouse, juno: Client): Promise<void> {
  await house.readLines(
    juno,
    [
      "Student no.,Surname,First name,Class,Parent 1,Email 1",
      ...Array.from(
        { length: GUESTS },
        (_, at) => `${at + 1},Oak${at},Ida,Trapeze Two,Robin Oak${at},oak${at}@oakmail.example`,
      ),
      "9999,Pine,Tove,Wire Walk,Robin Pine,pine@oakmail.example",
    ],
    { name: "Office" },
  );
  await house.step(juno);
}

async function listOf(juno: Client, words: RegExp): Promise<string> {
  const all = await juno.ask<{ lists: { id: string; title: string }[] }>("GET", "/api/lists/all");
  return all.body.lists.find(({ title }) => words.test(title))?.id ?? "";
}

const day = (ahead: number): string =>
  new Date(Date.now() + ahead * 86_400_000).toISOString().slice(0, 10);

/** How often the post and the invitations are sent, in turns. */
const ROUNDS = 3;
/** The text of a post whose copies are as large as invitations. */
const AS_LONG = "Please bring indoor shoes. ".repeat(76);

function contentOf(title: string, lists: string[], ahead: number): unknown {
  return {
    title,
    lists,
    when: { allDay: false, from: `${day(ahead)}T18:00`, until: `${day(ahead)}T19:00` },
  };
}

/** How many milliseconds asking for something takes, on average over many times. */
async function timeOf(ask: () => Promise<unknown>): Promise<number> {
  for (let warm = 0; warm < 30; warm++) await ask();
  const began = performance.now();
  for (let at = 0; at < ASKED; at++) await ask();
  return (performance.now() - began) / ASKED;
}

async function measureFeed(house: TestHouse, juno: Client): Promise<void> {
  const full = await listOf(juno, /Wire Walk, guardians/);
  const empty = await listOf(juno, /Wire Walk, students/);
  for (let at = 0; at < DATES; at++)
    await juno.ask("POST", "/api/dates", contentOf(`Date ${at}`, [full], 30 + (at % 300)));
  const feed = async (list: string) => {
    const { body } = await juno.ask<{ url: string }>("POST", "/api/feeds", { kind: "list", list });
    const first = await fetch(body.url);
    await first.arrayBuffer();
    const tag = first.headers.get("etag") ?? "";
    return async (): Promise<void> => {
      const response = await fetch(body.url, { headers: { "If-None-Match": tag } });
      await response.arrayBuffer();
      if (response.status !== 304) throw new Error(`${response.status}`);
    };
  };
  const none = await timeOf(await feed(empty));
  const all = await timeOf(await feed(full));
  console.log(`\nA calendar that hasn't changed, asked for ${ASKED} times`);
  console.log(`  with no dates    ${none.toFixed(2).padStart(7)} ms`);
  console.log(
    `  with ${DATES} dates  ${all.toFixed(2).padStart(7)} ms   ratio ${(all / none).toFixed(2)}; wanted 1.50`,
  );
  // So that none of these waits for its invitations any more.
  await keepGuestsInStep(house.amigo.context);
}

async function measureInviting(house: TestHouse, juno: Client): Promise<void> {
  const list = await listOf(juno, /Trapeze Two, guardians/);
  const { context } = house.amigo;
  const countOf = async (state: string): Promise<number> => {
    const { rows } = await context.db.execute<{ count: number }>(
      sql`select count(*)::int as count from delivery where state like ${state}`,
    );
    return rows[0]?.count ?? 0;
  };
  // As the database does by itself within a minute of large changes.
  await context.db.execute(sql`analyze`);
  const deliverer = new Deliverer(context);
  await until(
    "an empty queue",
    async () => (await countOf("%")) - (await countOf("sent")),
    (waiting) => waiting === 0,
    300_000,
  );
  const sizeOf = (): number => house.sink.mails.at(-1)?.raw.length ?? 0;
  const time = async (make: () => Promise<unknown>): Promise<[number, number]> => {
    const before = await countOf("sent");
    const began = performance.now();
    await make();
    const all = (count: number): boolean => count >= before + GUESTS;
    await until("all queued", () => countOf("%"), all, 300_000);
    const queued = performance.now() - began;
    await until("all sent", () => countOf("sent"), all, 300_000);
    return [queued, performance.now() - began];
  };
  const posts: [number, number][] = [];
  const dates: [number, number][] = [];
  let sizes = "";
  // In turns, as other work on the machine would else fall on one of them alone.
  for (let round = 0; round < ROUNDS; round++) {
    posts.push(
      await time(async () => {
        await juno.ask("POST", "/api/posts", {
          lists: [list],
          subject: "To all",
          text: AS_LONG,
          key: crypto.randomUUID(),
        });
        await sendPlanned(house.amigo.context, new Date(Date.now() + 60_000));
      }),
    );
    const postSize = sizeOf();
    dates.push(
      await time(async () => {
        await juno.ask("POST", "/api/dates", contentOf(`All come ${round}`, [list], 20));
        await keepGuestsInStep(house.amigo.context);
      }),
    );
    sizes = `a copy of the post has ${postSize} octets, an invitation ${sizeOf()}`;
  }
  await deliverer.close();
  for (const [at, end] of ["in the queue", "taken by the relay"].entries()) {
    const [ofPost, ofDate] = [posts, dates].map((times) =>
      median(times.map((one) => one[at] ?? 0)),
    );
    console.log(
      `\n${GUESTS.toLocaleString("en-GB")} addresses, from the press to the last mail ${end} (${sizes}; median of ${ROUNDS})`,
    );
    console.log(`  a post           ${(ofPost ?? 0).toFixed(0).padStart(7)} ms`);
    console.log(
      `  an invitation    ${(ofDate ?? 0).toFixed(0).padStart(7)} ms   ratio ${((ofDate ?? 0) / (ofPost ?? 1)).toFixed(2)}`,
    );
  }
}

function median(times: readonly number[]): number {
  return [...times].sort((one, other) => one - other)[Math.floor(times.length / 2)] ?? 0;
}

async function measureAddressBook(house: TestHouse, juno: Client): Promise<void> {
  const { db } = house.amigo.context;
  await db.execute(
    sql`insert into list select (jsonb_populate_record(null::list, to_jsonb(one) || jsonb_build_object('id', gen_random_uuid(), 'key', 'bench ' || n, 'name', 'bench-' || n, 'title', 'Bench ' || n))).* from generate_series(1, ${LISTS}) n, (select * from list where closed_at is null limit 1) one`,
  );
  const { body } = await juno.ask<{ password: string }>("POST", "/api/account/mail-programs", {
    name: "Bench",
    password: DEMO_PASSWORD,
    uses: ["calendars"],
  });
  const me = await juno.ask<{ id: string }>("GET", "/api/me");
  const path = `${house.url}/dav/addressbooks/${me.body.id}/lists/`;
  const sync = async (token: string): Promise<{ token: string; found: number; octets: number }> => {
    const response = await fetch(path, {
      method: "REPORT",
      headers: {
        Authorization: `Basic ${Buffer.from(`${JUNO}:${body.password}`).toString("base64")}`,
      },
      body: `<d:sync-collection xmlns:d="DAV:" xmlns:a="urn:ietf:params:xml:ns:carddav"><d:sync-token>${token}</d:sync-token><d:prop><d:getetag/><a:address-data/></d:prop></d:sync-collection>`,
    });
    const text = await response.text();
    return {
      token: /<D:sync-token>([^<]+)</.exec(text)?.[1] ?? "",
      found: text.split("<D:response>").length - 1,
      octets: text.length,
    };
  };
  const began = performance.now();
  const whole = await sync("");
  const first = performance.now() - began;
  await db.execute(sql`update list set title = 'Another' where name = 'bench-7'`);
  const again = performance.now();
  const changed = await sync(whole.token);
  const second = performance.now() - again;
  console.log(`\nAn address book of ${whole.found.toLocaleString("en-GB")} lists`);
  console.log(
    `  all of it        ${first.toFixed(0).padStart(7)} ms  ${whole.octets.toLocaleString("en-GB")} octets`,
  );
  console.log(
    `  one changed      ${second.toFixed(0).padStart(7)} ms  ${changed.octets.toLocaleString("en-GB")} octets, ${changed.found} told   ratio ${(second / first).toFixed(2)}`,
  );
}
