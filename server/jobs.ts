import { refuse } from "./http/fault";
import PgBoss from "pg-boss";
import type { Context } from "./context";
import type { Topic } from "./events/events";
import { removeLooseFiles } from "./dates/fileQueries";
import { keepGuestsInStep } from "./dates/keepGuestsInStep";
import { lookAtWatches } from "./dates/lookAtWatches";
import { remindGuests } from "./dates/remindGuests";
import { readForms } from "./forms/readForms";
import { carryOutDue } from "./intakes/dueIntakes";
import { sendGreetings } from "./notes/sendGreetings";
import { sendPlanned } from "./drafts/sendPlanned";
import { sendDigests } from "./mail/digests";
import { eraseOld, returnForgotten } from "./mail/keepClean";
import { emptySentSheets } from "./mail/queueQueries";
import { tellLeads } from "./notes/tellLeads";
import { tellWatchers } from "./notes/tellWatchers";
import { tellHeldLater } from "./posting/tellHeld";
import { removeOverTime } from "./retention/removeOverTime";
import { sweep } from "./accounts/sweep";
import { removeLooseBlobs } from "./shelf/removeLooseBlobs";
import { proveBlobs } from "./shelf/proveBlobs";
import { removeTakenOff } from "./shelf/queries";
import { claimDue, keepItself } from "./sources/keepItself";
import { awaitLock } from "./db/holdLock";
import { describeFailure } from "./describeFailure";
import { warnOfEnds } from "./intakes/warnOfEnds";

const DUE = "due-sources";
const READ = "read-source";
/** Any number that no other lock in this database has. */
const JOBS_LOCK = 7_207;
/** How long what comes together is gathered before it is looked at, in milliseconds. */
const TOGETHER = 700;

/** Work that comes back at its times (as cron writes them), and how soon after them it is looked for, in seconds. */
interface Recurring {
  name: string;
  cron: string;
  within: number;
  work: (context: Context, now: Date) => Promise<unknown>;
}

const RECURRING: readonly Recurring[] = [
  { name: "new-day", cron: "1 * * * *", within: 30, work: newDay },
  { name: "tell-leads", cron: "*/10 * * * *", within: 30, work: tellLeads },
  { name: "greetings", cron: "* * * * *", within: 30, work: sendGreetings },
  { name: "digests", cron: "*/5 * * * *", within: 15, work: sendDigests },
  { name: "planned-mail", cron: "* * * * *", within: 5, work: sendPlanned },
  { name: "form-answers", cron: "* * * * *", within: 30, work: readForms },
  {
    name: "intakes",
    cron: "* * * * *",
    within: 5,
    work: (context, now) => carryOutDue(context, now),
  },
  { name: "dates", cron: "* * * * *", within: 30, work: keepGuestsInStep },
  { name: "date-watches", cron: "* * * * *", within: 30, work: lookAtWatches },
  { name: "date-reminders", cron: "* * * * *", within: 30, work: remindGuests },
  { name: "held-notes", cron: "* * * * *", within: 30, work: tellHeldLater },
  { name: "watchers", cron: "*/5 * * * *", within: 30, work: tellWatchers },
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
  await boss.work(DUE, { pollingIntervalSeconds: 5 }, async () => {
    for (const source of await claimDue(context, new Date()))
      await boss.send(READ, { source }, { singletonKey: source });
  });
  await boss.work<{ source: string }>(READ, { pollingIntervalSeconds: 2 }, async (jobs) => {
    for (const { data } of jobs) refuse(await keepItself(context, data.source));
  });
  for (const { name, within, work } of RECURRING)
    await boss.work(name, { pollingIntervalSeconds: within }, async () => {
      await work(context, new Date());
    });
  // What was posted is due at once.
  const posted: Prompted = { topic: "posted", together: TOGETHER, work: () => boss.send(DUE, {}) };
  const prompted = [...PROMPTED, posted].map((item) => doWhenTold(context, item));
  return {
    close: async () => {
      for (const item of prompted) await item.close();
      await boss.stop({ graceful: true, wait: true, timeout: 10_000 });
    },
  };
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
  await boss.schedule(DUE, "* * * * *");
  for (const { name, cron } of RECURRING) {
    await boss.createQueue(name, { name, policy: "short" });
    await boss.schedule(name, cron);
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
