import { storeMessage } from "../posting/acceptPost";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { freePorts } from "../testing/freePorts";
import { JUNO, startTestHouse, type TestHouse } from "../testing/testHouse";

let house: TestHouse;
let port = 0;
beforeAll(async () => {
  [port = 0] = await freePorts(1);
  house = await startTestHouse({ settings: { AMIGO_METRICS_PORT: String(port) } });
});
afterAll(() => house.close());

const ask = (path: string) => fetch(`http://127.0.0.1:${port}${path}`);

test("the metrics are served at a port of their own, in OpenMetrics, without anybody's data", async () => {
  const juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await juno.ask("GET", "/api/lists/0b0e7b2c-0000-4000-8000-000000000000");
  const response = await ask("/metrics");
  expect(response.headers.get("Content-Type")).toContain("application/openmetrics-text");
  const text = await response.text();
  for (const line of [
    /^# EOF$/m,
    /^amigo_events_heard 1$/m,
    /^amigo_relay_away 0$/m,
    /^amigo_changes\{of="imports"\} 1$/m,
    /^amigo_pool_connections\{state="open"\} \d+$/m,
    /^amigo_http_request_seconds_count\{.*route="\/api\/lists\/:id".*status="404".*\} 1$/m,
    /^nodejs_eventloop_lag_seconds /m,
  ])
    expect(text).toMatch(line);
  expect(text).not.toMatch(/0b0e7b2c|copperwheel|@/);
  expect((await ask("/")).status).toBe(404);
  // The pages don't have them.
  expect((await fetch(`${house.url}/metrics`)).status).toBe(404);
});

test("every metric can be worked out, also of what waits", async () => {
  const { context } = house.amigo;
  const id = await storeMessage(context.db, Buffer.from("Subject: x\r\n\r\nx"), "<metrics@b>");
  await context.db.execute(
    sql`insert into delivery (message_id, address, token, state, priority, created_at, next_at) values (${id}, 'ana@lettr.example', 'metrics', 'deferred', 1, now() - interval '1 hour', now() + interval '1 hour')`,
  );
  const warned = vi.spyOn(context.log, "warn");
  const text = await (await ask("/metrics")).text();
  expect(warned.mock.calls).toEqual([]);
  warned.mockRestore();
  expect(text).toMatch(/^amigo_copies\{state="deferred"\} 1$/m);
  expect(text).toMatch(/^amigo_oldest_copy_seconds\{state="deferred"\} 36\d\d/m);
});

test("what can't be worked out is left out, and keeps no other back", async () => {
  const { context } = house.amigo;
  const { db } = context;
  context.db = { ...db, execute: () => Promise.reject(new Error("away")) } as unknown as typeof db;
  const text = await (await ask("/metrics")).text();
  context.db = db;
  expect(text).toMatch(/^amigo_pool_connections\{/m);
  expect(text).not.toMatch(/^amigo_copies\{/m);
});
