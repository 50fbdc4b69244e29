import type { CauseLine } from "@amigo/contract/rounds";
import { t } from "../texts/changes";

/** Causes of one kind; when there are many, gathered further by class. */
export interface CauseGroup {
  key: string;
  title: string;
  causes: CauseLine[];
  /** By the name of the class, empty for those of none. Shown folded into one line a class instead of one a cause. */
  classes: { name: string; causes: CauseLine[] }[] | undefined;
}

const TITLES: Record<string, string> = {
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

/** What a kind of cause is called. */
export function kindTitle(kind: string): string {
  return TITLES[kind] ?? kind;
}

/** More causes of one kind than this are gathered by class. */
const MANY = 24;

/** The key of the group in which new classes stand together with everybody who joins them. */
const CLASSES = "classes";

/** The key of the group in which a cause is shown. `isByClass` is true of a round that is read by class. */
export function groupKey(kind: string, isByClass: boolean): string {
  return isByClass && (kind === "joined" || kind === "cohort") ? CLASSES : kind;
}

/** Gathers the causes of a round by kind, in the order in which they come, and by class where there are many. */
export function groupCauses(causes: readonly CauseLine[], isByClass: boolean): CauseGroup[] {
  const groups = new Map<string, CauseLine[]>();
  for (const cause of causes) {
    const key = groupKey(cause.kind, isByClass);
    const foundGroup = groups.get(key);
    if (foundGroup === undefined) groups.set(key, [cause]);
    else foundGroup.push(cause);
  }
  return [...groups].map(([key, value]) => ({
    key,
    title: key === CLASSES ? t("changes.byClass") : kindTitle(key),
    causes: value,
    classes:
      value.length > MANY && value.some(({ group }) => group !== "") ? byClass(value) : undefined,
  }));
}

function byClass(causes: readonly CauseLine[]): { name: string; causes: CauseLine[] }[] {
  const classes = new Map<string, CauseLine[]>();
  for (const cause of causes) {
    const group = classes.get(cause.group);
    if (group === undefined) classes.set(cause.group, [cause]);
    else group.push(cause);
  }
  return [...classes].map(([name, group]) => ({ name, causes: group }));
}
