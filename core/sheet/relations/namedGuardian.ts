import { columnsOf, type Relation } from "./relation";

/** A guardian's surname doesn't stand alone, each given name has one surname at most, and a family tie stands beside a name. */
export const namedGuardian: Relation = {
  id: "named guardian",
  points: (labels, { columns }) => {
    const givens = columnsOf(labels, "guardian.given");
    const given = givens.length;
    // A title such as "Mum" may well stand over a first name alone.
    const untitled = givens.filter((index) => columns[index]?.title.known === false).length;
    const family = columnsOf(labels, "guardian.surname").length;
    const whole = columnsOf(labels, "guardian.name").length;
    const ties = columnsOf(labels, "guardian.relationship");
    const names = columnsOf(labels, "guardian.name", "guardian.given", "guardian.surname");
    const beside = ties.filter((tie) => names.some((name) => Math.abs(name - tie) === 1)).length;
    return (
      0.9 * beside -
      (ties.length > 0 && names.length === 0 ? 1.5 : 0) -
      1.5 * Math.max(0, family - given) -
      (untitled > 0 ? 1.1 : 0.5) * Math.max(0, given - family) -
      (whole > 0 && given + family > 0 ? 1 : 0)
    );
  },
};
