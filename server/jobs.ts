import PgBoss from "pg-boss";
import type { Context } from "./context";
import { readForms } from "./forms/readForms";
import { carryOutDue } from "./intakes/dueIntakes";
import { warnOfEnds } from "./intakes/endUntil";
import { sendGreetings } from "./notes/sendGreetings";
import { sendPlanned } from "./drafts/sendPlanned";
import { sendDigests } from "./mail/digests";
import { eraseOld, returnForgotten } from "./mail/keepClean";
import { tellLeads } from "./notes/tellLeads";
import { tellWatchers } from "./notes/tellWatchers";
import { sweep } from "./accounts/sweep";
import { claimDue, keepItself } from "./sources/keepItself";

const DUE = "due-sources";
const READ = "read-source";
const NEW_DAY = "new-day";
const TELL = "tell-leads";
const GREET = "greetings";
const DIGESTS = "digests";
const PLANNED = "planned-mail";
const FORMS = "form-answers";
const INTAKES = "intakes";
const WATCHERS = "watchers";
/** How long answers to forms are gathered before they are read, in milliseconds. */
const TOGETHER = 700;

/**
 * The work that nobody asks for at the moment: sources that are due, last days that are over, the mail that
 * tells leads of changes. Run by any number of workers, each thing once.
 */
export async function startJobs(context: Context): Promise<{ close(): Promise<void> }> {
  const boss = new PgBoss({ connectionString: context.settings.databaseUrl, max: 3, application_name: "amigo jobs" });
  boss.on("error", (failure: Error) => context.log.warn({ failure: failure.message }, "the jobs could not be looked at"));
  await boss.start();
  await boss.createQueue(DUE, { name: DUE, policy: "short" });
  // One reading of a source waits and one runs, at most; a second request for it is none.
  await boss.createQueue(READ, { name: READ, policy: "stately", retryLimit: 0, expireInMinutes: 15 });
  await boss.createQueue(NEW_DAY, { name: NEW_DAY, policy: "short" });
  await boss.createQueue(TELL, { name: TELL, policy: "short" });

  await boss.work(DUE, { pollingIntervalSeconds: 5 }, async () => {
    for (const source of await claimDue(context, new Date())) await boss.send(READ, { source }, { singletonKey: source });
  });
  await boss.work<{ source: string }>(READ, { pollingIntervalSeconds: 2 }, async (jobs) => {
    for (const { data } of jobs) await keepItself(context, data.source);
  });
  await boss.work(NEW_DAY, { pollingIntervalSeconds: 30 }, async () => { await sweep(context.db); await returnForgotten(context.db); await eraseOld(context); await context.desk.run("endUntil", { now: new Date() }); await warnOfEnds(context, new Date()); await context.desk.run("endStaff", undefined); await context.desk.run("reopenRound", undefined); });
  await boss.work(TELL, { pollingIntervalSeconds: 30 }, async () => { await tellLeads(context, new Date()); });
  await boss.createQueue(GREET, { name: GREET, policy: "short" });
  await boss.work(GREET, { pollingIntervalSeconds: 30 }, async () => { await sendGreetings(context); });
  await boss.createQueue(DIGESTS, { name: DIGESTS, policy: "short" });
  await boss.work(DIGESTS, { pollingIntervalSeconds: 15 }, async () => { await sendDigests(context, new Date()); });
  await boss.schedule(DIGESTS, "*/5 * * * *");
  await boss.createQueue(PLANNED, { name: PLANNED, policy: "short" });
  await boss.work(PLANNED, { pollingIntervalSeconds: 5 }, async () => { await sendPlanned(context, new Date()); });
  await boss.schedule(PLANNED, "* * * * *");
  await boss.schedule(GREET, "* * * * *");
  // What waits is mailed at once where the event line says so; the schedule is for what was missed.
  let greeting: Promise<unknown> = Promise.resolve();
  const stopListening = context.events.on((topic) => { if (topic === "greetings") greeting = greeting.then(() => sendGreetings(context)).catch((failure: unknown) => context.log.warn({ failure: String(failure) }, "greetings could not be sent")); });
  await boss.createQueue(FORMS, { name: FORMS, policy: "short" });
  await boss.work(FORMS, { pollingIntervalSeconds: 30 }, async () => { await readForms(context); });
  await boss.schedule(FORMS, "* * * * *");
  // Answers that come together are read together: while one reading runs, what comes waits for the next.
  let reading: Promise<unknown> = Promise.resolve();
  let waits = false;
  const stopHearing = context.events.on((topic) => {
    if (topic !== "forms" || waits) return;
    waits = true;
    reading = reading.then(() => new Promise((resolve) => { setTimeout(resolve, TOGETHER); })).then(() => { waits = false; return readForms(context); }).catch((failure: unknown) => context.log.warn({ failure: String(failure) }, "the answers to forms could not be read"));
  });
  await boss.createQueue(INTAKES, { name: INTAKES, policy: "short" });
  await boss.work(INTAKES, { pollingIntervalSeconds: 5 }, async () => { await carryOutDue(context, new Date()); });
  await boss.schedule(INTAKES, "* * * * *");
  await boss.createQueue(WATCHERS, { name: WATCHERS, policy: "short" });
  await boss.work(WATCHERS, { pollingIntervalSeconds: 30 }, async () => { await tellWatchers(context, new Date()); });
  await boss.schedule(WATCHERS, "*/5 * * * *");
  // What was posted is read at once; the schedule is for what was missed.
  const stopPosted = context.events.on((topic) => { if (topic === "posted") setTimeout(() => { boss.send(DUE, {}).catch((failure: unknown) => context.log.warn({ failure: String(failure) }, "what was posted could not be read at once")); }, TOGETHER).unref(); });
  await boss.schedule(DUE, "* * * * *");
  await boss.schedule(NEW_DAY, "1 * * * *");
  await boss.schedule(TELL, "*/10 * * * *");
  return { close: async () => { stopListening(); stopHearing(); stopPosted(); await greeting; await reading; await boss.stop({ graceful: true, wait: true, timeout: 10_000 }); } };
}
