import { readFileSync } from "node:fs";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { loadDemo } from "@amigo/demo/loadDemo";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { readSettings } from "@amigo/server/settings";
import { startAmigo } from "@amigo/server/startAmigo";

/**
 * A whole Amigo in a process of its own, asked over HTTP as a page would. Does as it is told by messages:
 * `read` a file, or bring in `step`; answers milliseconds, and the peak memory of the process in MB.
 */
const [databaseUrl = "", port = ""] = process.argv.slice(2);
const url = `http://127.0.0.1:${port}`;
const amigo = await startAmigo(
  readSettings({
    AMIGO_LOG: process.env.AMIGO_LOG ?? "silent",
    AMIGO_PORT: port,
    AMIGO_DATABASE_URL: databaseUrl,
    AMIGO_RELAY: "smtp://127.0.0.1:9",
    AMIGO_ROLES: "web",
  }),
);
await loadDemo(amigo.context.db);
// Two lists for each class, as every house starts with, so that the figures of all times can be compared.
await amigo.context.connection.pool.query(
  "update fact set valid_until = now() where kind = 'recipe' and subject in ('recipe:5', 'recipe:6') and valid_until is null",
);
const signIn = await fetch(`${url}/api/sign-in`, {
  method: "POST",
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify({ email: "juno.abara@copperwheel.example", password: DEMO_PASSWORD }),
});
const cookie = signIn.headers.get("set-cookie")?.split(";")[0] ?? "";
let source: string | undefined;

async function ask<Answer>(
  method: string,
  path: string,
  body?: FormData | object,
): Promise<Answer> {
  const response = await fetch(`${url}${path}`, {
    method,
    headers: {
      Cookie: cookie,
      ...(body instanceof FormData || body === undefined
        ? {}
        : { "Content-Type": "application/json" }),
    },
    ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }),
  });
  const answer: unknown = await response.json();
  if (!response.ok) throw new Error(`${path}: ${response.status} ${JSON.stringify(answer)}`);
  return answer as Answer;
}

async function read(file: string, plan: string): Promise<{ causes: number }> {
  const form = new FormData();
  form.set("file", new File([new Uint8Array(readFileSync(file))], "made-roster.xlsx"));
  form.set("plan", plan);
  if (source === undefined) form.set("name", "Made roster");
  const answer = await ask<{ source: string; causes: number }>(
    "POST",
    source === undefined ? "/api/sources" : `/api/sources/${source}/readings`,
    form,
  );
  source = answer.source;
  return { causes: answer.causes };
}

async function step(): Promise<{ causes: number }> {
  const round = await ask<{
    number: number;
    version: number;
    guards: { id: string; count: number }[];
    totals: { accepted: number };
  }>("GET", "/api/rounds/open");
  await ask("POST", "/api/rounds/open/step", {
    round: round.number,
    version: round.version,
    passed: Object.fromEntries(round.guards.map(({ id, count }) => [id, count])),
  });
  return { causes: round.totals.accepted };
}

/** What changing the title of one list would do, as the page asks before it is done. */
async function planEdit(): Promise<{ causes: number }> {
  const { rows } = await amigo.context.connection.pool.query<{ key: string }>(
    "select key from list where closed_at is null and key like '1:class:%' order by key limit 1",
  );
  const lists = [{ key: rows[0]?.key, points: { title: "Another title" } }];
  const { causes } = await ask<{ causes: unknown[] }>("POST", "/api/edits/plan", {
    edit: { what: "lists", aliasUntil: "", lists },
  });
  return { causes: causes.length };
}

let kept = 0;

/** One address is always on one list from now on. */
async function keepOne(): Promise<{ causes: number }> {
  const { rows } = await amigo.context.connection.pool.query<{ id: string }>(
    "select id from list where closed_at is null and key like '1:class:%' order by key limit 1",
  );
  await ask("POST", `/api/lists/${rows[0]?.id}/kept`, {
    address: `guest${++kept}@copperwheel.example`,
    side: "on",
    reason: "A guest",
  });
  return { causes: 0 };
}

/** The board as the server answers it, and beside it the bare count of everybody on every list. */
async function board(): Promise<{ causes: number }> {
  await ask("GET", "/api/board");
  return { causes: 0 };
}

async function bareCount(): Promise<{ causes: number }> {
  const { rowCount } = await amigo.context.connection.pool.query(
    "select list.id, list.name, count(membership.id) from list left join membership on membership.list_id = list.id and membership.valid_until is null where list.closed_at is null group by list.id",
  );
  return { causes: rowCount ?? 0 };
}

const delay = monitorEventLoopDelay({ resolution: 5 });

/** How long at most the process was busy without a break since this was last asked; told as the time. */
async function loop(): Promise<{ causes: number; time: number }> {
  const time = delay.max / 1e6;
  delay.reset();
  delay.enable();
  return { causes: 0, time };
}

const TASKS: Record<string, () => Promise<{ causes: number; time?: number }>> = {
  step,
  planEdit,
  keepOne,
  board,
  bareCount,
  loop,
};

process.on("message", (wanted: { do: "read"; file: string; plan: string } | { do: string }) => {
  void (async () => {
    if (wanted.do === "end") {
      await amigo.close();
      process.exit(0);
    }
    const begin = performance.now();
    const { causes, time }: { causes: number; time?: number } =
      "file" in wanted
        ? await read(wanted.file, wanted.plan)
        : ((await TASKS[wanted.do]?.()) ?? { causes: 0 });
    process.send?.({
      time: time ?? performance.now() - begin,
      memory: process.resourceUsage().maxRSS / 1024,
      causes,
    });
  })().catch((failure: unknown) => {
    console.error(failure);
    process.exit(1);
  });
});
process.send?.({ time: 0, memory: 0, causes: 0 });
