import { noSuch, type Refused } from "../refused";
import { and, eq } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { form } from "../db/schema/forms";
import { type LoadedForm, loadForms, formsOf } from "./queries";

export async function loadVisibleForm(
  db: Database,
  id: string,
  caller: Caller,
): Promise<LoadedForm | Refused> {
  const [eachForm] = /^[0-9a-f-]{36}$/i.test(id)
    ? await loadForms(db, and(eq(form.id, id), formsOf(caller)))
    : [];
  if (eachForm === undefined) return noSuch("form");
  return eachForm;
}
