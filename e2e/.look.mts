import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Person } from "./browser";
import { startStack } from "./stack";
mkdirSync("/tmp/look", { recursive: true });
const stack = await startStack();
const juno = await Person.open(stack.url);
const pic = async (n: string) => { await new Promise((r) => setTimeout(r, 500)); await juno.picture(`/tmp/look/${n}.png`); };
try {
await juno.click("button", "Juno Abara");
await juno.read("Lists come out of your roster");
await juno.go("/sources");
await juno.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
await juno.click("button", "Read 220 students");
await juno.click("button", "Bring 30 lists in step");
await juno.read("No round is open");
await juno.go("/sources");
await juno.read("220 rows read");
await juno.chooseFile(join(SAMPLES_FOLDER, "troupes.ods"));
await juno.click("button", "students");
await juno.click("button", "lists in step");
await juno.read("No round is open");
for (const [name, path, text] of JSON.parse(process.argv[2] ?? "[]") as [string, string, string][]) { await juno.go(path); await juno.read(text); await pic(name); }
if (process.argv[3] !== undefined) await (await import(process.argv[3])).default(juno, pic, stack);
} catch (e) { console.error(e); await pic("failed"); console.error((await juno.text()).slice(0, 1500)); }
console.log(await juno.errors());
await juno.close(); await stack.close();
