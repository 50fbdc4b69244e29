import { columnsOf, type Relation } from "./relation";

const SEVERAL_NAMES = -4;
/** Lockers and tickets are numbered, too: without a word for it, children are told apart by their names instead. */
const UNSAID = -0.8;

/** A student's number stands with one name; what stands with several is no such number unless its title says so. */
export const numberNames: Relation = {
  id: "number names",
  points: (labels, evidence) => {
    let points = 0;
    for (const number of columnsOf(labels, "student.number")) {
      const what = evidence.columns[number]?.title.what;
      if (what === undefined || what.has("number") || what.has("counter")) continue;
      points += UNSAID;
      for (const name of columnsOf(labels, "student.name", "student.surname")) {
        const { share, groups } = evidence.sameWithin(number, name);
        if (groups > 0 && share < 0.8) points += SEVERAL_NAMES;
      }
    }
    return points;
  },
};
