import { answered } from "./answered";
import { children } from "./children";
import { classes } from "./classes";
import { coach } from "./coach";
import { coachAddress } from "./coachAddress";
import { detail } from "./detail";
import { family } from "./family";
import { guardianAddress } from "./guardianAddress";
import { guardianGiven } from "./guardianGiven";
import { guardianName } from "./guardianName";
import { guardianRelationship } from "./guardianRelationship";
import { guardianSurname } from "./guardianSurname";
import { classMark, teamMark } from "./mark";
import type { Meaning, MeaningId } from "./meaning";
import { personKind } from "./personKind";
import { personal } from "./personal";
import { season } from "./season";
import { site } from "./site";
import { studentAddress } from "./studentAddress";
import { studentGiven } from "./studentGiven";
import { studentLevel } from "./studentLevel";
import { studentName } from "./studentName";
import { studentNumber } from "./studentNumber";
import { studentPrefix } from "./studentPrefix";
import { studentSurname } from "./studentSurname";
import { teams } from "./teams";
import { unread } from "./unread";

/** Every column meaning there is, in the order in which the interface offers them. */
export const ALL_MEANINGS: readonly Meaning[] = [
  studentNumber,
  studentSurname,
  studentPrefix,
  studentGiven,
  studentName,
  children,
  studentLevel,
  studentAddress,
  site,
  classes,
  teams,
  coach,
  coachAddress,
  guardianName,
  guardianGiven,
  guardianSurname,
  guardianAddress,
  guardianRelationship,
  personKind,
  family,
  answered,
  season,
  classMark,
  teamMark,
  detail,
  personal,
  unread,
];

const BY_ID = new Map(ALL_MEANINGS.map((meaning) => [meaning.id, meaning]));

/** The meaning of that name. */
export function meaningOf(id: MeaningId): Meaning {
  return BY_ID.get(id) ?? unread;
}
