import type { Meaning } from "../meanings/meaning";
import type { TitleReading, Whose } from "./titleReading";

/** A title that says it plainly is worth this much. */
const PLAIN = 5;
/** A title that plainly says something else speaks against a meaning. */
const AGAINST = -3;
/** A title that names somebody else speaks more loudly. */
const SOMEBODY_ELSE = -4;
/** An emergency contact is a guardian only where nobody else is. */
const EMERGENCY = 0.3;
/** A question of many words is less plain than a title. */
const QUESTION = 9;

const NOT_USED: ReadonlySet<Meaning["id"]> = new Set<Meaning["id"]>(["private", "unread"]);

/** A family's email is its guardians'; a family's name is the child's surname. */
function ofHousehold(id: Meaning["id"]): number {
  return id === "guardian.address" || id === "family"
    ? 1
    : id === "student.surname"
      ? 0.9
      : id.startsWith("guardian.")
        ? 0.5
        : -1;
}

/** How well whom a title names fits a meaning, up to 1; negative where it is somebody else. */
function fitOf({ id, title: of }: Pick<Meaning, "id" | "title">, who: Whose | undefined): number {
  if (of.whose === undefined) {
    const isElse = who === "staff" || who === "other" || who === "emergency";
    return isElse && !NOT_USED.has(id) ? -1 : 1;
  }
  if (who === undefined) return of.unsaid;
  if (who === of.whose) return 1;
  if (who === "household") return ofHousehold(id);
  return who === "emergency" && of.whose === "guardian" ? EMERGENCY : -1;
}

/** How much a title speaks for a meaning, in points; negative where it speaks against it. */
export function titlePoints({ id, title: of }: Meaning, title: TitleReading): number {
  if (!title.known) return 0;
  const plain = PLAIN * (title.words >= QUESTION ? 0.8 : 1);
  let what = 0;
  for (const [concept, weight] of title.what)
    what = Math.max(what, weight * (of.what[concept as keyof typeof of.what] ?? 0));
  const loudest = Math.max(0, ...title.what.values());
  const [who, whoWeight] = [...title.whose].sort((a, b) => b[1] - a[1])[0] ?? [undefined, 0];
  const found = fitOf({ id, title: of }, who);
  if (found < 0) return whoWeight > 0.4 ? SOMEBODY_ELSE * (who === "emergency" ? 2 : 1) : 0;
  if (what > 0) return plain * what * found;
  if (loudest > 0.6)
    return NOT_USED.has(id) && who !== undefined && who !== "student" ? -1 : AGAINST;
  if (who === "other") return NOT_USED.has(id) ? plain * 0.3 : 0;
  if (who === "household") return plain * 0.5 * Math.max(0, ofHousehold(id)) * whoWeight;
  return who !== undefined && who === of.whose ? plain * of.bare * whoWeight : 0;
}
