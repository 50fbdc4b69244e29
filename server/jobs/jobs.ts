import { tellDevices } from "../push/tellDevices";
import { refuse } from "../http/fault";
import PgBoss from "pg-boss";
import type { Context } from "../context";
import { RECURRING_JOBS, type JobName } from "@amigo/core/jobs/recurring";
import { notify, type Topic } from "../events/events";
import { takeAsked } from "./jobQueries";
import { runJob } from "./runJob";
import { keepBackups } from "../backup/keepBackups";
import { removeLooseFiles } from "../dates/fileQueries";
import { keepGuestsInStep } from "../dates/keepGuestsInStep";
import { lookAtWatches } from "../dates/lookAtWatches";
import { remindGuests } from "../dates/remindGuests";
import { readForms } from "../forms/readForms";
import { carryOutDue } from "../intakes/dueIntakes";
import { sendGreetings } from "../notes/sendGreetings";
import { sendPlanned } from "../drafts/sendPlanned";
import { sendDigests } from "../mail/digests";
import { eraseOld, returnForgotten } from "../mail/keepClean";
import { emptySentSheets } from "../mail/queueQueries";
import { tellLeads } from "../notes/tellLeads";
import { tellWatchers } from "../notes/tellWatchers";
import { tellHeldLater } from "../posting/tellHeld";
import { removeOverTime } from "../retention/removeOverTime";
import { shareRows } from "../sources/shareRows";
import { sweep } from "../accounts/sweep";
import { removeLooseBlobs } from "../shelf/removeLooseBlobs";
import { proveBlobs } from "../shelf/proveBlobs";
import { removeTakenOff } from "../shelf/queries";
import { claimDue, keepItself } from "../sources/keepItself";
import { awaitLock } from "../db/holdLock";
import { describeFailure } from "../describeFailure";
import { warnOfEnds } from "../intakes/warnOfEnds";

const DUE = "due-sources" satisfies JobName;
const READ = "read-source";
/** Any number that no other lock in this database has. */
const JOBS_LOCK = 7_207;
/** How long what comes together is gathered before it is looked at, in milliseconds. */
const TOGETHER = 700;

/** What is done at its times (`core/jobs/recurring.ts`), and how soon after them it is looked for, in seconds. */
interface Recurring {
  name: JobName;
  within: number;
  work: (context: Context, now: Date) => Promise<unknown>;
}

const RECURRING: readonly Recurring[] = [
  { name: "new-day", within: 30, work: newDay },
  { name: "tell-leads", within: 30, work: tellLeads },
  { name: "greetings", within: 30, work: sendGreetings },
  { name: "digests", within: 15, work: sendDigests },
  { name: "planned-mail", within: 5, work: sendPlanned },
  { name: "form-answers", within: 30, work: readForms },
  { name: "intakes", within: 5, work: (context, now) => carryOutDue(context, now) },
  { name: "dates", within: 30, work: keepGuestsInStep },
  { name: "date-watches", within: 30, work: lookAtWatches },
  { name: "date-reminders", within: 30, work: remindGuests },
  { name: "held-notes", within: 30, work: tellHeldLater },
  { name: "watchers", within: 30, work: tellWatchers },
  { name: "push", within: 30, work: tellDevices },
  { name: "backups", within: 30, work: keepBackups },
];

/** Work that is done at once where the event line says so; the times above are for what was missed. */
interface Prompted {
  topic: Topic;
  /** For how long what follows is gathered first, in milliseconds. */
  together: number;
  work: (context: Context, now: Date) => Promise<unknown>;
}

const PROMPTED: readonly Prompted[] = [
  { topic: "greetings", together: 0, work: sendGreetings },
  { topic: "forms", together: TOGETHER, work: readForms },
  { topic: "dates", together: TOGETHER, work: keepGuestsInStep },
  { topic: "board", together: TOGETHER, work: keepGuestsInStep },
  { topic: "posts", together: TOGETHER, work: tellDevices },
  { topic: "rounds", together: TOGETHER, work: tellDevices },
];

/** What a new day brings, looked for every hour: there are houses in every time zone. Last days end before rounds are worked out again, so that they are no causes there. */
async function newDay(context: Context, now: Date): Promise<void> {
  await sweep(context.db);
  await returnForgotten(context);
  await eraseOld(context);
  await emptySentSheets(context.db);
  await removeLooseFiles(context.db);
  await removeTakenOff(context.db);
  await removeLooseBlobs(context);
  await removeOverTime(context, now);
  await shareRows(context);
  refuse(await context.desk.run("endUntil", { now }));
  await warnOfEnds(context, now);
  await carryOutDue(context, now, true);
  refuse(await context.desk.run("endStaff", undefined));
  refuse(await context.desk.run("reopenRound", undefined));
  // Last, as it reads much and nothing waits for it.
  await proveBlobs(context);
}

/**
 * The work that nobody asks for at the moment: sources that are due, last days that are over, the mail that
 * tells leads of changes. Run by any number of workers, each thing once.
 */
export async function startJobs(context: Context): Promise<{ close(): Promise<void> }> {
  const boss = new PgBoss({
    connectionString: context.settings.databaseUrl,
    max: 3,
    application_name: "amigo jobs",
  });
  boss.on("error", (failure: Error) =>
    context.log.warn({ failure: describeFailure(failure) }, "the jobs could not be looked at"),
  );
  // Workers that begin together on a new database would wait for each other's tables for ever.
  await awaitLock(context.connection.pool, JOBS_LOCK, () => makeReady(boss));
  const lookAtSources = async (): Promise<void> => {
    for (const source of await claimDue(context, new Date()))
      await boss.send(READ, { source }, { singletonKey: source });
  };
  const recurring: readonly Recurring[] = [
    { name: DUE, within: 5, work: lookAtSources },
    ...RECURRING,
  ];
  await boss.work<{ source: string }>(READ, { pollingIntervalSeconds: 2 }, async (jobs) => {
    for (const { data } of jobs) refuse(await keepItself(context, data.source));
  });
  for (const { name, within, work } of recurring)
    await boss.work(name, { pollingIntervalSeconds: within }, () =>
      runJob(context, name, () => work(context, new Date())),
    );
  const asked: Prompted = { topic: "jobs", together: 0, work: () => doAsked(context, recurring) };
  // What was posted is due at once.
  const posted: Prompted = { topic: "posted", together: TOGETHER, work: () => boss.send(DUE, {}) };
  const prompted = [...PROMPTED, posted, asked].map((item) => doWhenTold(context, item));
  return {
    close: async () => {
      for (const item of prompted) await item.close();
      await boss.stop({ graceful: true, wait: true, timeout: 10_000 });
    },
  };
}

/** Does what somebody wanted done at once. */
async function doAsked(context: Context, recurring: readonly Recurring[]): Promise<void> {
  for (const name of await takeAsked(context.db)) {
    const job = recurring.find((one) => one.name === name);
    if (job === undefined) continue;
    // What fails is in the table and in the log.
    await runJob(context, job.name, () => job.work(context, new Date())).catch(() => undefined);
    await notify(context.db, "house");
  }
}

/** Makes the queues, and says when what comes back comes back. */
async function makeReady(boss: PgBoss): Promise<void> {
  await boss.start();
  await boss.createQueue(DUE, { name: DUE, policy: "short" });
  // One reading of a source waits and one runs, at most; a second request for it is none.
  await boss.createQueue(READ, {
    name: READ,
    policy: "stately",
    retryLimit: 0,
    expireInMinutes: 15,
  });
  await boss.schedule(DUE, RECURRING_JOBS[DUE].cron);
  for (const { name } of RECURRING) {
    await boss.createQueue(name, { name, policy: "short" });
    await boss.schedule(name, RECURRING_JOBS[name].cron);
  }
}

/** Does some work whenever its topic is told: one at a time, and what is told while it waits or is gathered counts once. */
function doWhenTold(
  context: Context,
  { topic, together, work }: Prompted,
): { close(): Promise<void> } {
  let last: Promise<unknown> = Promise.resolve();
  let waits = false;
  const stop = context.events.on((told) => {
    if (told !== topic || waits) return;
    waits = true;
    last = last
      .then(
        () =>
          new Promise((resolve) => {
            setTimeout(resolve, together);
          }),
      )
      .then(() => {
        waits = false;
        return work(context, new Date());
      })
      .catch((failure: unknown) =>
        context.log.warn(
          { failure: describeFailure(failure), topic },
          "what was told of could not be done at once",
        ),
      );
  });
  return {
    close: async () => {
      stop();
      await last;
    },
  };
}
