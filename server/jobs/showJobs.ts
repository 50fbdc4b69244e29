import { say } from "@amigo/language/say";
import type { getJobs, postJob } from "@amigo/contract/jobs";
import { JOB_NAMES, nextRun, RECURRING_JOBS, type JobName } from "@amigo/core/jobs/recurring";
import type { Context } from "../context";
import { inTransaction } from "../db/inTransaction";
import { notify } from "../events/events";
import { record } from "../events/record";
import { notFound } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { t } from "../texts/t";
import { askForJob, listJobRuns } from "./jobQueries";

/** Returns all work that comes back by itself: when it was done last and is due next, and what came of it. */
export async function showJobs({ db, settings }: Context): Promise<Answer<typeof getJobs>> {
  const runs = new Map((await listJobRuns(db)).map((run) => [run.name, run]));
  const now = new Date();
  return JOB_NAMES.filter((name) => name !== "backups" || settings.backups !== undefined).map(
    (name) => {
      const run = runs.get(name);
      return {
        name,
        what: say(RECURRING_JOBS[name].what),
        last: run?.endedAt?.toISOString() ?? null,
        took: run?.took ?? null,
        next: nextRun(name, now)?.toISOString() ?? null,
        failure: run?.failure.split("\n")[0] ?? "",
        isAsked: run?.askedAt != null,
      };
    },
  );
}

/** Has a job done at once, by whichever worker hears of it first. */
export async function askJob(
  { db }: Context,
  { params: { name }, caller }: Request<typeof postJob>,
): Promise<Answer<typeof postJob>> {
  const job = JOB_NAMES.find((one): one is JobName => one === name);
  if (job === undefined) throw notFound("job");
  await inTransaction(db, async (tx) => {
    await askForJob(tx, job);
    await record(tx, {
      ...{ actorId: caller.id, actor: caller.name, action: "run job" },
      sentence: () =>
        t("jobs.hadItDone", { name: caller.name, job: say(RECURRING_JOBS[job].what) }),
    });
    await notify(tx, "jobs");
  });
  return { done: true };
}
