import { alikeTitles } from "./alikeTitles";
import { emergency } from "./emergency";
import { groupDecides } from "./groupDecides";
import { nameInAddress } from "./nameInAddress";
import { namedGuardian } from "./namedGuardian";
import { namedStudent } from "./namedStudent";
import { neighbours } from "./neighbours";
import { numberNames } from "./numberNames";
import { onlyOnce } from "./onlyOnce";
import { personRows } from "./personRows";
import type { Relation } from "./relation";
import { severalMarks } from "./severalMarks";
import { sharedSurname } from "./sharedSurname";
import { sharedTitleWord } from "./sharedTitleWord";
import { siblings } from "./siblings";

/** Every way in which columns belong together. */
export const ALL_RELATIONS: readonly Relation[] = [
  onlyOnce,
  namedStudent,
  namedGuardian,
  nameInAddress,
  sharedSurname,
  siblings,
  alikeTitles,
  neighbours,
  numberNames,
  groupDecides,
  severalMarks,
  emergency,
  personRows,
  sharedTitleWord,
];
