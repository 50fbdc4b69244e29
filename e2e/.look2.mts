import { join } from "node:path";
import { execSync } from "node:child_process";
const conns = (w: string) => { const port = new URL(stack.url).port; console.log(w, "sse", (stack.amigo.context.events as any).listeners.size, execSync(`ss -tn state established | grep -c "127.0.0.1:${port} " || true`).toString().trim(), execSync(`ss -tn state established | grep -c "\\[::1\\]:${port} " || true`).toString().trim()); };
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Person } from "./browser";
import { startStack } from "./stack";
const stack = await startStack();
const juno = await Person.open(stack.url);
try {
await juno.click("button", "Juno Abara");
await juno.read("Lists come out of your roster"); conns("board");
await juno.go("/sources");
await juno.read("Drop the roster here");
await juno.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
await juno.click("button", "Read 220 students");
await juno.click("button", "Bring 20 lists in step");
await juno.read("No round is open"); conns("after step");
conns("before people"); await juno.go("/people");
await juno.read("families");
const pool = stack.amigo.context.connection.pool;
await juno.chooseFile; await juno.go("/sources"); await juno.chooseFile(join(SAMPLES_FOLDER, "contact-form.csv")); await juno.click("button", "Read 135 students"); await juno.driver.sleep(1500); conns("after form"); await juno.go("/people?show=questions"); await juno.read("different addresses"); conns("before people"); await juno.go("/people"); await juno.read("families"); await juno.type("Find people", "penhal");
await juno.driver.sleep(3000);
console.log((await juno.text()).slice(300,520)); const { rows } = await pool.query("select pid, state, wait_event_type, wait_event, now()-query_start as t, left(query, 3000) as q from pg_stat_activity where datname = current_database() and state <> 'idle' and pid <> pg_backend_pid()");
console.log(rows);
if (0) console.log(await juno.driver.executeAsyncScript("const d=arguments[0]; const t=Date.now(); fetch('/api/people?q=penhal').then(r=>r.text()).then(x=>d([x.length, Date.now()-t]))"));
} catch (e) { console.log(e); }
await juno.close(); await stack.close(); process.exit(0);
