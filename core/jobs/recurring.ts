import { Cron } from "croner";
import { message, type Message } from "@amigo/language/message";

/** Work that comes back by itself. */
interface RecurringJob {
  /** When, as cron writes it, in UTC. */
  cron: string;
  /** What it does, for people. */
  what: Message;
}

/** All work that comes back by itself, by its name. */
export const RECURRING_JOBS = {
  "new-day": { cron: "1 * * * *", what: message("jobs.newDay") },
  "tell-leads": { cron: "*/10 * * * *", what: message("jobs.tellLeads") },
  greetings: { cron: "* * * * *", what: message("jobs.greetings") },
  digests: { cron: "*/5 * * * *", what: message("jobs.digests") },
  "planned-mail": { cron: "* * * * *", what: message("jobs.plannedMail") },
  "form-answers": { cron: "* * * * *", what: message("jobs.formAnswers") },
  intakes: { cron: "* * * * *", what: message("jobs.additions") },
  dates: { cron: "* * * * *", what: message("jobs.dates") },
  "date-watches": { cron: "* * * * *", what: message("jobs.dateWatches") },
  "date-reminders": { cron: "* * * * *", what: message("jobs.dateReminders") },
  "held-notes": { cron: "* * * * *", what: message("jobs.heldNotes") },
  watchers: { cron: "*/5 * * * *", what: message("jobs.watchers") },
  push: { cron: "* * * * *", what: message("jobs.push") },
  backups: { cron: "25 * * * *", what: message("jobs.backups") },
  "due-sources": { cron: "* * * * *", what: message("jobs.dueSources") },
} as const satisfies Record<string, RecurringJob>;

export type JobName = keyof typeof RECURRING_JOBS;

export const JOB_NAMES = Object.keys(RECURRING_JOBS) as JobName[];

/** Returns when a job is due next after a moment. */
export function nextRun(name: JobName, after: Date): Date | undefined {
  return new Cron(RECURRING_JOBS[name].cron, { timezone: "UTC" }).nextRun(after) ?? undefined;
}
