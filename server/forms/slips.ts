import { randomInt } from "node:crypto";
import type { Queries } from "../db/connect";
import { listCodes, storeCodes } from "./codeQueries";

/** Letters and digits that nobody takes for one another on paper. */
const SIGNS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";
const LENGTH = 10;

/** The personal codes of some students for a form; whoever has none yet is given one, which stays. */
export async function codesFor(
  db: Queries,
  formId: string,
  students: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const known = new Set((await listCodes(db, formId)).map(({ student }) => student));
  const fresh = students
    .filter((student) => !known.has(student))
    .map((student) => ({
      formId,
      student,
      code: Array.from({ length: LENGTH }, () => SIGNS.charAt(randomInt(SIGNS.length))).join(""),
    }));
  if (fresh.length > 0) await storeCodes(db, fresh);
  return new Map((await listCodes(db, formId)).map(({ student, code }) => [student, code]));
}
