import { fork, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { sql } from "drizzle-orm";
import { acceptPost, storeMessage } from "@amigo/server/posting/acceptPost";
import { JUNO, startTestHouse, type TestHouse } from "@amigo/server/testing/testHouse";

const CONNECTIONS = 5;
const COPIES = 12_000;
const FEWER = 2000;
const THINKS = 20;
const OCTETS = 2000;
const LARGE = 20 * 1024 * 1024;

const start = (file: string, ...args: string[]): ChildProcess =>
  fork(new URL(file, import.meta.url), args, {
    execArgv: ["--import", "tsx"],
    env: { ...process.env, AMIGO_LOG: "silent" },
  });
const told = async <Told>(child: ChildProcess, message?: object): Promise<Told> => {
  const answer = once(child, "message");
  if (message !== undefined) child.send(message);
  return (await answer)[0] as Told;
};

/** The highest peak of memory of some workers, in MB. */
async function peakOf(running: readonly ChildProcess[]): Promise<number> {
  const peaks = await Promise.all(
    running.map((child) => told<{ memory: number }>(child, { do: "memory" })),
  );
  return Math.max(...peaks.map(({ memory }) => memory));
}

/** Copies a second through the queue, beside the bare client sending ready-made messages to the same sink over as many connections. */
export async function measureMail(): Promise<void> {
  const sink = start("./mailSink.ts");
  const { port } = await told<{ port: number }>(sink);
  const house = await startTestHouse({ roles: "web" });
  const juno = await house.signIn(JUNO);
  await house.readLines(
    juno,
    [
      "Surname,First name,Site,Class,Parent 1,Email 1",
      "Holm,Una,Mill Loft,Wire Walk,Ana Holm,ana@lettr.example",
    ],
    { name: "Roster" },
  );
  await house.step(juno);
  const listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  const rate = async (many: number): Promise<number> => {
    for (;;) {
      const { count, time } = await told<{ count: number; time: number }>(sink, { do: "count" });
      if (count >= many) return ((many - 1) * 1000) / time;
      await new Promise((resolve) => {
        setTimeout(resolve, 100);
      });
    }
  };
  const bare = async (copies = COPIES, thinks = 0, ...signs: "sign"[]): Promise<number> => {
    await told(sink, { do: "again", thinks });
    await told(
      start(
        "./mailBare.ts",
        String(port),
        String(copies),
        String(CONNECTIONS),
        String(OCTETS),
        ...signs,
      ),
    );
    return rate(copies);
  };
  const workers = async (
    many: number,
    copies: number,
    octets: number,
    domain = "oakmail.example",
    thinks = 0,
  ): Promise<{ rate: number; memory: number; before: number }> => {
    await told(sink, { do: "again", thinks });
    await queue(house, listId, copies, octets, domain);
    const running = await Promise.all(
      Array.from({ length: many }, async () => {
        const child = start(
          "./mailWorker.ts",
          house.amigo.context.settings.databaseUrl,
          String(port),
          String(CONNECTIONS),
          house.amigo.context.settings.data,
        );
        await told(child);
        return child;
      }),
    );
    const before = await peakOf(running);
    await house.amigo.context.db.execute(sql`update house set queue_paused_by = ''`);
    await house.amigo.context.db.execute(sql`select pg_notify('amigo', 'queue')`);
    const figure = await rate(copies);
    const memory = await peakOf(running);
    for (const child of running) {
      const gone = once(child, "exit");
      child.send({ do: "end" });
      await gone;
    }
    return { rate: figure, memory, before };
  };
  console.log(
    `\n${COPIES.toLocaleString("en-GB")} copies of ${OCTETS / 1000} kB, ${CONNECTIONS} connections a worker, to a sink on loopback`,
  );
  const base = [await bare(), await bare(), await bare()].sort((one, other) => one - other)[1] ?? 0;
  const line = (what: string, copies: number, beside = base): void =>
    console.log(
      `  ${what.padEnd(30)}${copies.toFixed(0).padStart(7)} a second   ratio ${(copies / beside).toFixed(2)}`,
    );
  line("the bare client", base);
  line("the same, signing each", await bare(COPIES, 0, "sign"));
  // Copies for inside members are one and the same and signed once; those for outside members hold a link of their own each.
  for (const [who, domain] of [
    ["inside", "copperwheel.example"],
    ["outside", "oakmail.example"],
  ] as const) {
    for (const many of [1, 2])
      line(
        `${many === 1 ? "one worker" : "two workers"}, ${who} members`,
        (await workers(many, COPIES, OCTETS, domain)).rate,
      );
  }
  console.log(
    `\n${FEWER.toLocaleString("en-GB")} copies to a relay that takes ${THINKS} ms for each`,
  );
  const slow = await bare(FEWER, THINKS);
  line("the bare client", slow, slow);
  for (const many of [1, 2])
    line(
      many === 1 ? "one worker, outside members" : "two workers, outside members",
      (await workers(many, FEWER, OCTETS, "oakmail.example", THINKS)).rate,
      slow,
    );
  const [few, many] = [await workers(1, 20, LARGE), await workers(1, 200, LARGE)];
  console.log(
    `  20 MB to 20 and 200 addresses: peak memory ${few.memory.toFixed(0)} MB and ${many.memory.toFixed(0)} MB, ratio ${(many.memory / few.memory).toFixed(2)}; before the first copy ${few.before.toFixed(0)} and ${many.before.toFixed(0)} MB, as the worker runs from its sources here`,
  );
  sink.send({ do: "end" });
  await house.close();
}

/** Puts a post into the queue of a house whose mail waits, for so many made-up members. */
async function queue(
  {
    amigo: {
      context: { db },
    },
  }: TestHouse,
  listId: string,
  copies: number,
  octets: number,
  domain: string,
): Promise<void> {
  await db.execute(sql`update house set queue_paused_by = 'the bench'`);
  await db.execute(sql`delete from membership where list_id = ${listId}`);
  await db.execute(
    sql`insert into membership (list_id, address, valid_from) select ${listId}::uuid, 'member' || n || '@' || ${domain}, now() from generate_series(1, ${copies}) as n`,
  );
  const messageId = `<${crypto.randomUUID()}@copperwheel.example>`;
  const raw = Buffer.from(
    `From: ${JUNO}\r\nSubject: x\r\nMessage-ID: ${messageId}\r\n\r\n`.padEnd(
      octets,
      "Dear families, the loft is closed.\r\n",
    ),
  );
  await db.transaction(async (tx) => {
    await acceptPost(tx, {
      messageRow: await storeMessage(tx, raw, messageId),
      messageId,
      subject: "x",
      from: { name: "Juno Abara", address: JUNO },
      accountId: null,
      lists: [listId],
      reasons: [],
    });
  });
}
