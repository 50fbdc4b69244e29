import { readFileSync } from "node:fs";
import { readTable } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
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
const amigo = await startAmigo(readSettings({ AMIGO_PORT: port, AMIGO_DATABASE_URL: databaseUrl, AMIGO_RELAY: "smtp://127.0.0.1:9", AMIGO_ROLES: "web" }));
await loadDemo(amigo.context.db);
const signIn = await fetch(`${url}/api/sign-in`, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ email: "juno.abara@copperwheel.example", password: DEMO_PASSWORD }) });
const cookie = signIn.headers.get("set-cookie")?.split(";")[0] ?? "";
let source: string | undefined;

async function ask<Answer>(method: string, path: string, body?: FormData | object): Promise<Answer> {
  const response = await fetch(`${url}${path}`, { method, headers: { Cookie: cookie, ...(body instanceof FormData || body === undefined ? {} : { "Content-Type": "application/json" }) }, ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }) });
  const answer: unknown = await response.json();
  if (!response.ok) throw new Error(`${path}: ${response.status} ${JSON.stringify(answer)}`);
  return answer as Answer;
}

/** The plan that the page would have sent: made before the clock runs, for the page makes it in the browser. */
function formFor(file: string): FormData {
  const bytes = new Uint8Array(readFileSync(file));
  const book = readWorkbook(bytes);
  const found = book.ok ? readTable(book.workbook) : book;
  if (!found.ok) throw new Error(found.fault.sentence);
  const { table } = found;
  const form = new FormData();
  form.set("file", new File([bytes], "made-roster.xlsx"));
  form.set("plan", JSON.stringify({ sheet: table.sheet, headerRow: table.headerRow, columns: table.columns.map(({ title, meaning, slot }) => ({ title, meaning, slot })) }));
  if (source === undefined) form.set("name", "Made roster");
  return form;
}

async function read(file: string): Promise<{ causes: number }> {
  const form = forms.get(file) ?? new FormData();
  const answer = await ask<{ source: string; causes: number }>("POST", source === undefined ? "/api/sources" : `/api/sources/${source}/readings`, form);
  source = answer.source;
  return { causes: answer.causes };
}

async function step(): Promise<{ causes: number }> {
  const round = await ask<{ number: number; version: number; guards: { id: string; count: number }[]; totals: { accepted: number } }>("GET", "/api/rounds/open");
  await ask("POST", "/api/rounds/open/step", { round: round.number, version: round.version, passed: Object.fromEntries(round.guards.map(({ id, count }) => [id, count])) });
  return { causes: round.totals.accepted };
}

const forms = new Map<string, FormData>();

process.on("message", (wanted: { do: "prepare" | "read" | "step" | "end"; file?: string }) => {
  void (async () => {
    if (wanted.do === "end") { await amigo.close(); process.exit(0); }
    if (wanted.do === "prepare") { forms.set(wanted.file ?? "", formFor(wanted.file ?? "")); process.send?.({ time: 0, memory: 0, causes: 0 }); return; }
    const begin = performance.now();
    const { causes } = wanted.do === "read" ? await read(wanted.file ?? "") : await step();
    process.send?.({ time: performance.now() - begin, memory: process.resourceUsage().maxRSS / 1024, causes });
  })().catch((failure: unknown) => { console.error(failure); process.exit(1); });
});
process.send?.({ time: 0, memory: 0, causes: 0 });
