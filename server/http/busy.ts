import { hasCode } from "../db/hasCode";
import { t } from "../texts/t";
import { Refusal } from "./fault";

/** What PostgreSQL answers to what took too long, or waited for too long: 55P03, 57014 and 25P03. */
const CODES = new Set(["55P03", "57014", "25P03"]);

/** Whether a failure is a time limit of the database (`server/db/timeLimits.ts`): nothing was done, and it can be tried again. */
export function isBusy(failure: unknown): boolean {
  return hasCode(failure, CODES) || isWithoutConnection(failure);
}

/** Whether no connection of the pool became free in time; the pool says so in words alone. */
function isWithoutConnection(failure: unknown): boolean {
  for (let at = failure; at instanceof Error; at = at.cause)
    if (at.message === "timeout exceeded when trying to connect") return true;
  return false;
}

export function busy(): Refusal {
  return new Refusal(503, "busy", t("http.databaseIsBusy"));
}
