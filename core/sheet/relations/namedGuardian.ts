import { columnsOf, type Relation } from "./relation";

/** A guardian's surname doesn't stand alone, each given name has one surname at most, and a family tie stands beside a name. */
export const namedGuardian: Relation = {
  id: "named guardian",
  points: (labels) => {
    const given = columnsOf(labels, "guardian.given").length;
    const family = columnsOf(labels, "guardian.surname").length;
    const whole = columnsOf(labels, "guardian.name").length;
    const ties = columnsOf(labels, "guardian.relationship");
    const names = columnsOf(labels, "guardian.name", "guardian.given", "guardian.surname");
    const beside = ties.filter((tie) => names.some((name) => Math.abs(name - tie) === 1)).length;
    return (
      0.9 * beside -
      (ties.length > 0 && names.length === 0 ? 1.5 : 0) -
      1.5 * Math.max(0, family - given) -
      1.1 * Math.max(0, given - family) -
      (whole > 0 && given + family > 0 ? 1 : 0)
    );
  },
};
