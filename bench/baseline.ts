import { say } from "@amigo/language/say";
import { readFileSync } from "node:fs";
import { pipeline } from "node:stream/promises";
import { Readable } from "node:stream";
import pg from "pg";
import { from as copyFrom } from "pg-copy-streams";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";

/** The baseline of every figure: only parsing the file and loading its rows into PostgreSQL with COPY. Milliseconds and peak memory in MB are sent to whoever started it. */
const [file = "", url = ""] = process.argv.slice(2);
const client = new pg.Client({ connectionString: url });
await client.connect();
await client.query("create temporary table loaded (row int, cells text[])");
const bytes = new Uint8Array(readFileSync(file));
const begin = performance.now();
const book = readWorkbook(bytes);
if (!book.ok) throw new Error(say(book.fault.sentence));
const rows = book.workbook.sheets[0]?.rows ?? [];
const quote = (cell: string): string => `"${cell.replace(/[\\"]/g, "\\$&")}"`;
const escape = (text: string): string =>
  text.replace(/\\/g, "\\\\").replace(/\t/g, "\\t").replace(/\n/g, "\\n").replace(/\r/g, "\\r");
function* lines(): Generator<string> {
  for (const [at, cells] of rows.entries())
    yield `${at + 1}\t${escape(`{${cells.map(quote).join(",")}}`)}\n`;
}
await pipeline(Readable.from(lines()), client.query(copyFrom("copy loaded from stdin")));
const time = performance.now() - begin;
const {
  rows: [counted],
} = await client.query<{ count: string }>("select count(*) from loaded");
await client.end();
process.send?.({
  time,
  memory: process.resourceUsage().maxRSS / 1024,
  rows: Number(counted?.count),
});
process.exit(0);
