import { inOrder } from "@amigo/language/inOrder";
import { nameOf } from "@amigo/core/facts/factIndex";
import { guardiansOf, workingAddresses } from "@amigo/core/reach/reach";
import type { MissingStudent } from "@amigo/contract/forms";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { knownPeople } from "../membership/knownPeople";
import { offeredOf, type LoadedForm } from "./queries";
import { childKey } from "./takeAnswer";
import { loadStopped } from "../membership/addressQueries";
import { listAnswered } from "./answerQueries";

/**
 * Students of a form's classes and teams for whom no answer counts, or whose answering address fails; each with the addresses
 * by which the family can still be written to: other guardians', and the student's own. A form without classes asks
 * everybody; of them, each sees those whom they may know.
 */
export async function missingFor(
  db: Queries,
  form: LoadedForm,
  caller: Caller,
): Promise<{ students: MissingStudent[]; asked: number }> {
  const index = await standingIndex(db, form.seasonId);
  const offered = offeredOf(form.content);
  const answers = await listAnswered(db, form.id);
  const answered = new Map<string, string[]>();
  for (const { child, address } of answers)
    answered.set(child, [...(answered.get(child) ?? []), address]);
  const stopped = await loadStopped(db);
  const known = (await knownPeople(db, caller)).people;
  const asked = [...index.people.values()].filter(
    ({ id, role, cohorts }) =>
      role === "student" &&
      known.has(id) &&
      (offered === undefined ? cohorts.size > 0 : [...cohorts].some((key) => offered.has(key))),
  );
  const students = asked.flatMap((student): MissingStudent[] => {
    const by = answered.get(childKey(student));
    if (by !== undefined && workingAddresses(by, stopped).length > 0) return [];
    const ways = [...guardiansOf(student, index), student].flatMap((person) =>
      workingAddresses(person.addresses, stopped).map((address) => ({
        id: person.id,
        who: nameOf(person),
        address,
      })),
    );
    return [
      {
        id: student.id,
        name: nameOf(student),
        classes: [...student.cohorts].flatMap((key) => index.cohorts.get(key)?.name ?? []).sort(),
        why: by === undefined ? "no answer" : "address fails",
        by: ways,
      },
    ];
  });
  return {
    students: students.sort(
      (one, other) =>
        inOrder(one.classes[0] ?? "", other.classes[0] ?? "") || inOrder(one.name, other.name),
    ),
    asked: asked.length,
  };
}
