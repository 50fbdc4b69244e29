import { readFileSync } from "node:fs";
import { join } from "node:path";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";

interface Truth {
  students: {
    id: string;
    given: string;
    family: string;
    classes: string[];
    teams: string[];
    guardians: { given: string; family: string; email: string }[];
  }[];
  faults: { student: string; guardian: number; right: string | null }[];
  answered_again: { student: string; guardian: string; older: string; newer: string }[];
  week_two: {
    moved: { student: string }[];
    address: { student: string; from: string; to: string }[];
    renamed: { student: string }[];
    left: string[];
    joined: { id: string }[];
  };
}

/** Who is truly who in the sample sheets. */
export const TRUTH = JSON.parse(readFileSync(join(SAMPLES_FOLDER, "truth.json"), "utf8")) as Truth;

/**
 * The guardians' mailboxes of a class, as the truth has them, without those that no sheet can tell: a
 * faulty cell whose right address only a person knows, unless another row of the same guardian has it.
 */
export function mailboxesOf(className: string): string[] {
  const untold = new Set(
    TRUTH.faults
      .filter(({ right }) => right === null)
      .map(({ student, guardian }) => `${student} ${guardian}`),
  );
  const told = new Set(
    TRUTH.students.flatMap(({ id, guardians }) =>
      guardians.flatMap(({ given, family, email }, index) =>
        untold.has(`${id} ${index}`) ? [] : [`${given} ${family} ${email}`],
      ),
    ),
  );
  const boxes = TRUTH.students
    .filter(({ classes }) => classes.includes(className))
    .flatMap(({ guardians }) =>
      guardians.flatMap(({ given, family, email }) =>
        told.has(`${given} ${family} ${email}`) ? [email] : [],
      ),
    );
  return [...new Set(boxes)].sort();
}
