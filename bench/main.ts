import { say as wordsOf } from "@amigo/language/say";
import { fork, type ChildProcess } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { planOf } from "@amigo/core/sheet/readingPlan";
import { readTable } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { freePorts } from "@amigo/server/testing/freePorts";
import { makeTestDatabase } from "@amigo/server/testing/testDatabase";
import { measureAudiences } from "./audiences";
import { measureBoard } from "./board";
import { measureDates } from "./dates";
import { measureFaults } from "./faults";
import { measureForms } from "./forms";
import { measureHostile } from "./hostile";
import { measureMail } from "./mail";
import { measurePeople } from "./people";
import { measureRounds } from "./rounds";
import { measureShelf } from "./shelf";
import { measureUnderstanding } from "./understanding";
import { measureYears } from "./years";
import { asWorkbook, LARGE, makeRoster, sizeOf, type Size } from "./roster";

/**
 * Measures reading a large roster, each figure as a ratio to the baseline of the same run. Needs a database server in
 * AMIGO_TEST_DATABASE_URL; `npm run bench` starts one.
 */
if (process.argv.includes("--forms")) {
  await measureForms();
  process.exit(0);
}
if (process.argv.includes("--dates")) {
  await measureDates();
  process.exit(0);
}
if (process.argv.includes("--shelf")) {
  const isSmall = process.argv.includes("--small");
  await measureShelf(isSmall ? 256 : 2047, isSmall ? 3 : 2);
  process.exit(0);
}
if (process.argv.includes("--hostile")) {
  await measureHostile(Number(process.argv[process.argv.indexOf("--hostile") + 1] ?? 60) || 60);
  process.exit(0);
}
if (process.argv.includes("--understanding")) {
  measureUnderstanding();
  process.exit(0);
}
if (process.argv.includes("--rounds")) {
  measureRounds();
  process.exit(0);
}
if (process.argv.includes("--faults")) {
  await measureFaults(Number(process.argv[process.argv.indexOf("--faults") + 1] ?? 60) || 60);
  process.exit(0);
}
if (process.argv.includes("--years")) {
  await measureYears(Number(process.argv[process.argv.indexOf("--years") + 1] ?? 1000) || 1000);
  process.exit(0);
}
if (process.argv.includes("--people")) {
  const people = Number(process.argv[process.argv.indexOf("--people") + 1] ?? 40) || 40;
  const students = process.argv.includes("--students")
    ? Number(process.argv[process.argv.indexOf("--students") + 1])
    : LARGE.students;
  await measurePeople(students, people);
  process.exit(0);
}
if (process.argv.includes("--mail")) {
  await measureMail();
  process.exit(0);
}

interface Figure {
  time: number;
  memory: number;
  causes?: number;
}

const size: Size = process.argv.includes("--small")
  ? sizeOf(2_000)
  : process.argv.includes("--students")
    ? sizeOf(Number(process.argv[process.argv.indexOf("--students") + 1]))
    : LARGE;
const folder = mkdtempSync(join(tmpdir(), "amigo-bench-"));
const files = {
  first: join(folder, "first.xlsx"),
  anew: join(folder, "anew.xlsx"),
  changed: join(folder, "changed.xlsx"),
};
writeFileSync(files.first, asWorkbook(makeRoster(size)));
// Saved again: other octets, the same rows.
writeFileSync(files.anew, asWorkbook(makeRoster(size), "saved once more"));
writeFileSync(files.changed, asWorkbook(makeRoster(size, 0.01)));
/** The plan that the page would send along: it makes it in the browser, so neither time nor memory counts. Later files follow the first one's. */
const plan = planFor(files.first);
const audiences = measureAudiences(size);
console.log(
  `${audiences.lists} audiences over ${audiences.people.toLocaleString("en-GB")} people, ${audiences.places.toLocaleString("en-GB")} places on lists`,
);
console.log(
  `  all together                 ${ms(audiences.together)}   a bare loop that looks at no audience ${ms(audiences.bare)}   ratio ${(audiences.together / audiences.bare).toFixed(2)}`,
);
console.log(
  `  one after the other          ${ms(audiences.singly)}   looking at everybody for each ${ms(audiences.rescanning)}   ratio ${(audiences.singly / audiences.rescanning).toFixed(3)}\n`,
);
const database = await makeTestDatabase();
const [port = 0] = await freePorts(1);

const say = (child: ChildProcess, message?: object): Promise<Figure> =>
  new Promise((resolve, reject) => {
    const ended = (code: number | null): void =>
      reject(new Error(`a measured process ended with ${code}`));
    child.once("exit", ended);
    child.once("message", (figure) => {
      child.off("exit", ended);
      resolve(figure as Figure);
    });
    if (message !== undefined) child.send(message);
  });
const begun = (child: ChildProcess): Promise<Figure> => say(child);
const start = (file: string, ...args: string[]): ChildProcess =>
  fork(new URL(file, import.meta.url), args, {
    execArgv: ["--import", "tsx"],
    env: { ...process.env, AMIGO_LOG: "warn" },
  });
const baseline = (file: string): Promise<Figure> =>
  begun(start("./baseline.ts", file, database.url));
/** The machine is shared and noisy, so a baseline is the median of three. */
const median = async (measure: () => Promise<Figure>): Promise<Figure> => {
  const figures = [await measure(), await measure(), await measure()].sort(
    (a, b) => a.time - b.time,
  );
  return figures[1] as Figure;
};

console.log(
  `${size.students.toLocaleString("en-GB")} students, ${size.guardians.toLocaleString("en-GB")} guardians, ${size.classes * 2} lists`,
);
console.log("                                     time      baseline  ratio  causes  peak memory");
const base = await median(() => baseline(files.first));
const house = start("./house.ts", database.url, String(port));
await begun(house);
const read = (file: string): Promise<Figure> => say(house, { do: "read", file, plan });
const line = (what: string, { time, memory, causes }: Figure): void =>
  console.log(
    `${what.padEnd(34)}${seconds(time)}${seconds(base.time)}${(time / base.time).toFixed(2).padStart(7)}${String(causes ?? "").padStart(8)}${`${Math.round(memory)} MB`.padStart(13)}`,
  );
line("baseline: parse and COPY", base);
line("first reading to round", await read(files.first));
line(
  `bringing ${(size.classes * 2).toLocaleString("en-GB")} lists in step`,
  await say(house, { do: "step" }),
);
line("unchanged, saved anew", await read(files.anew));
line("the very same file", await read(files.first));
line("with 1% changed", await read(files.changed));
line("bringing those in step", await say(house, { do: "step" }));
const again = async (what: "board" | "bareCount" | "planEdit" | "keepOne"): Promise<Figure> => {
  await say(house, { do: what });
  return median(() => say(house, { do: what }));
};
line("planning one list's title", await again("planEdit"));
line("one address always on a list", await again("keepOne"));
const [answer, count] = [await again("board"), await again("bareCount")];
console.log(`\nThe board of ${size.classes * 2} lists`);
console.log(
  `  the server's answer          ${ms(answer.time)}   a bare count of ${count.causes ?? 0} lists' members ${ms(count.time)}   ratio ${(answer.time / count.time).toFixed(2)}`,
);
const grid = await measureBoard(`http://localhost:${port}`, size.classes * 2, answer.time);
console.log(
  `  to a painted grid            ${ms(grid.painted)}   a plain table of as many cells ${ms(grid.plainPainted)}   ratio ${(grid.painted / grid.plainPainted).toFixed(2)}`,
);
console.log(
  `  longest frame, scrolling     ${ms(grid.longestFrame)}   the plain table ${ms(grid.plainLongestFrame)}   ratio ${(grid.longestFrame / grid.plainLongestFrame).toFixed(2)} over ${grid.frames} frames`,
);
house.send({ do: "end" });
await new Promise((resolve) => {
  house.once("exit", resolve);
});
await database.drop();
rmSync(folder, { recursive: true, force: true });
if (!process.argv.includes("--roster")) await measureMail();
process.exit(0);

function planFor(file: string): string {
  const book = readWorkbook(new Uint8Array(readFileSync(file)));
  const found = book.ok ? readTable(book.workbook) : book;
  if (!found.ok) throw new Error(wordsOf(found.fault.sentence));
  return JSON.stringify(planOf(found.table));
}

function ms(time: number): string {
  return `${time.toFixed(1)} ms`.padStart(11);
}

function seconds(time: number): string {
  return `${(time / 1000).toFixed(2)} s`.padStart(10);
}
