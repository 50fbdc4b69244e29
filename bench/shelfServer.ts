import { createReadStream, createWriteStream } from "node:fs";
import { stat } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream as WebStream } from "node:stream/web";
import { serve } from "@hono/node-server";
import { Hono } from "hono";
import { freePorts } from "@amigo/server/testing/freePorts";
import { JUNO, startTestHouse } from "@amigo/server/testing/testHouse";

/** What the measuring process is told of the servers. */
export interface ShelfServers {
  amigo: string;
  cookie: string;
  list: string;
  plain: string;
}

/** A house, and beside it in the same process a server that copies files to and from a folder and does nothing else. */
const [folder = ""] = process.argv.slice(2);
const house = await startTestHouse({ roles: "web", settings: { AMIGO_SHELF_GB: "100" } });
const juno = await house.signIn(JUNO);
await house.readLines(
  juno,
  [
    "Student no.,Surname,First name,Class,Parent 1,Email 1",
    "1,Oak,Ida,Trapeze Two,Robin Oak,oak@oakmail.example",
  ],
  { name: "Office" },
);
await house.step(juno);
const { body } = await juno.ask<{ lists: { id: string; title: string }[] }>(
  "GET",
  "/api/lists/all",
);
const list = body.lists.find(({ title }) => title.startsWith("Trapeze Two"))?.id ?? "";

const app = new Hono();
const path = join(folder, "copy");
app.post("/", async (http) => {
  if (http.req.raw.body !== null)
    await pipeline(
      Readable.fromWeb(http.req.raw.body as WebStream<Uint8Array>),
      createWriteStream(path),
    );
  return http.text("kept");
});
app.get("/", async () => {
  const { size } = await stat(path);
  const content = Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>;
  return new Response(content, { headers: { "Content-Length": String(size) } });
});
const [port = 0] = await freePorts(1);
serve({ fetch: app.fetch, port, hostname: "127.0.0.1" });

let most = 0;
setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20).unref();
process.on("message", (message) => {
  if (message === "close") void house.close().then(() => process.exit(0));
  else {
    process.send?.({ most });
    most = process.memoryUsage().rss;
  }
});
const servers: ShelfServers = {
  amigo: house.url,
  cookie: juno.cookie,
  list,
  plain: `http://127.0.0.1:${port}/`,
};
process.send?.(servers);
