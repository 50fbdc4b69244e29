import { columnsOf, type Labels, type Relation } from "./relation";
import type { Evidence } from "../columns/evidence";

const NAMED = 3;
const LEVEL = 1.4;

/** A class decides its teacher, and mostly its site and level. */
export const groupDecides: Relation = {
  id: "group decides",
  points: (labels, evidence) => {
    const groups = columnsOf(labels, "classes", "teams");
    const isUnnamed = (group: number | undefined): boolean =>
      group !== undefined && evidence.columns[group]?.title.known === false;
    let points = namesAGroup(labels, groups.length, evidence);
    // Beside one, another column of a few values is something else unless its title says so.
    for (const group of groups.slice(1)) if (isUnnamed(group)) points -= 2;
    if (groups.length > 1 && isUnnamed(groups[0])) points -= 2;
    for (const group of groups)
      points +=
        (isUnnamed(group) ? countsRows(group, labels, evidence) : 0) +
        standsWithRows(group, evidence) +
        decidesOthers(group, labels, evidence);
    return points;
  },
};

/** Nearly every sheet of a school names a class or team; a year or grade can stand for it. */
function namesAGroup(labels: Labels, groups: number, { columns }: Evidence): number {
  const marks = columnsOf(labels, "classes.mark", "teams.mark").length;
  const areListed = columnsOf(labels, "children").some(
    (index) => (columns[index]?.profile.childrenWithClasses ?? 0) > 0.5,
  );
  if (groups > 0 || marks > 1 || areListed) return NAMED;
  return columnsOf(labels, "student.level").length > 0 ? LEVEL : 0;
}

/** A number that counts the rows of one child is no class, unless its title says so. */
function countsRows(group: number, labels: Labels, evidence: Evidence): number {
  if ((evidence.columns[group]?.profile.smallNumber ?? 0) <= 0.7) return 0;
  let points = 0;
  for (const child of columnsOf(labels, "student.name", "student.number")) {
    const { share, groups: rows } = evidence.sameWithin(child, group);
    if (rows > 0 && share < 0.95) points -= 3;
  }
  return points;
}

/** A class or team stands with nearly every row; that of a second child doesn't. */
function standsWithRows(group: number, evidence: Evidence): number {
  const { title, profile } = evidence.columns[group] ?? {};
  if (evidence.children > 1 && Number(title?.slot) > 1) return 0;
  const filled = profile?.filled ?? 0;
  return filled < 0.6 ? -2.5 : filled < 0.9 ? -0.5 : 0;
}

function decidesOthers(group: number, labels: Labels, evidence: Evidence): number {
  let points = 0;
  for (const coach of columnsOf(labels, "coach", "coach.address"))
    points += evidence.decides(group, coach) > 0.95 ? 0.8 : -0.3;
  for (const other of columnsOf(labels, "student.level", "site"))
    points += evidence.decides(group, other) > 0.95 ? 0.4 : -0.2;
  return points;
}
