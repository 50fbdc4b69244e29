import { Worker } from "node:worker_threads";
import type { DNSResolver } from "mailauth";
import type { FromChild, ToChild } from "./sandbox";
import { Unreadable } from "./unreadable";
import { SANDBOX_TASKS, SANDBOX_TIME, type SandboxTask } from "./tasks";
import type { Surroundings } from "./surroundings";

/** How much memory the process may take, in MB, and how many times as long as usual a task may. */
const [memory = 2048, patience = 1] = process.argv.slice(2).map(Number);
/** How many questions one task may ask the DNS: ten signatures, SPF with its ten lookups, DMARC, a chain of seals. */
const MOST_QUESTIONS = 40;

const until = new SharedArrayBuffer(8);
const deadline = new Float64Array(until);
new Worker(new URL("watchdog.mjs", import.meta.url), {
  workerData: { until, memory: memory * 1024 * 1024, parent: process.ppid },
  execArgv: [],
}).unref();

const say = (answer: FromChild): void => void process.send?.(answer);
const questions = new Map<
  number,
  { resolve: (records: never) => void; reject: (f: Error) => void }
>();
let asked = 0;

function surroundings(task: number): Surroundings {
  let left = MOST_QUESTIONS;
  const resolve = (name: string, type: string): Promise<never> => {
    if (left-- <= 0)
      return Promise.reject(
        Object.assign(new Error("too many questions for one mail"), { code: "EREFUSED" }),
      );
    const question = ++asked;
    return new Promise((answer, reject) => {
      questions.set(question, { resolve: answer, reject });
      say({ id: task, question, name, type });
    });
  };
  return { resolve: resolve as DNSResolver };
}

process.on("message", (told: ToChild) => {
  if ("question" in told) {
    const waiting = questions.get(told.question);
    questions.delete(told.question);
    if ("records" in told) waiting?.resolve(told.records as never);
    else waiting?.reject(Object.assign(new Error(told.failure), { code: told.code }));
    return;
  }
  void work(told.id, told.task, told.ask);
});
process.on("disconnect", () => process.exit(0));
// Whoever stops the program often tells all of its processes. This one ends when the program no longer waits for it.
for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, () => undefined);

async function work(id: number, task: SandboxTask, ask: unknown): Promise<void> {
  deadline[0] = Date.now() + SANDBOX_TIME[task] * patience;
  try {
    const run = SANDBOX_TASKS[task] as (
      ask: unknown,
      surroundings: Surroundings,
    ) => Promise<unknown>;
    const answer = await run(ask, surroundings(id));
    deadline[0] = 0;
    say({ id, answer });
  } catch (failure) {
    deadline[0] = 0;
    if (failure instanceof Unreadable) say({ id, unreadable: true });
    else {
      const { describeFailure } = await import("../describeFailure");
      say({ id, failure: describeFailure(failure) });
    }
  }
}

say({ ready: true });
