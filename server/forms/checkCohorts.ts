import { refused, type Refused } from "../refused";
import type { FormContent } from "@amigo/core/forms/form";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { t } from "../texts/t";
import { cohortsFor } from "./queries";

/** A lead offers the classes of the lists that they lead, and no others; a coordinator all. */
export async function checkCohorts(
  db: Database,
  caller: Caller,
  { cohorts, parts }: FormContent,
): Promise<Refused | undefined> {
  if (caller.role === "coordinator") return;
  const known = new Set((await cohortsFor(db, caller)).map(({ key }) => key));
  const chooses = parts.includes("class") || parts.includes("team");
  if (chooses && (cohorts.length === 0 || cohorts.some((key) => !known.has(key))))
    return refused(403, "form/classes", t("forms.chooseTheClassesAndTeams"), "cohorts");
}
