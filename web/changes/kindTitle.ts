import { CLASSES } from "@amigo/contract/causes";
import { t } from "../texts/changes";

const TITLES: Record<string, string> = {
  [CLASSES]: t("changes.byClass"),
  moved: t("changes.movedClass"),
  joined: t("changes.joined"),
  left: t("changes.left"),
  address: t("changes.addressChanged"),
  name: t("changes.nameChanged"),
  reachable: t("changes.canBeReachedNow"),
  unreachable: t("changes.canNoLongerBeReached"),
  corrected: t("changes.correctedByHand"),
  expired: t("changes.lastDayOver"),
  "guardian-added": t("changes.guardianAdded"),
  "guardian-gone": t("changes.guardianGone"),
  cohort: t("changes.classes"),
  detail: t("changes.otherDetails"),
  season: t("changes.season"),
  recipe: t("changes.recipes"),
  naming: t("changes.shortForms"),
  list: t("changes.lists2"),
};

/** What a section of causes is called: those of a kind, or new classes with everybody who joins them. */
export function kindTitle(kind: string): string {
  return TITLES[kind] ?? kind;
}
