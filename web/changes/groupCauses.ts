import type { CauseLine } from "@amigo/contract/rounds";

/** Causes of one kind; when there are many, gathered further by class. */
export interface CauseGroup {
  key: string;
  title: string;
  causes: CauseLine[];
  /** Shown folded into one line a class instead of one a cause. */
  classes: { name: string; causes: CauseLine[] }[] | undefined;
}

const TITLES: Record<string, string> = {
  moved: "Moved class",
  joined: "Joined",
  left: "Left",
  address: "Address changed",
  name: "Name changed",
  reachable: "Can be reached now",
  unreachable: "Can no longer be reached",
  corrected: "Corrected by hand",
  expired: "Last day over",
  "guardian-added": "Guardian added",
  "guardian-gone": "Guardian gone",
  cohort: "Classes",
  detail: "Other details",
  season: "Season",
  recipe: "Recipes",
  naming: "Short forms",
  list: "Lists",
};

/** What a kind of cause is called. */
export function kindTitle(kind: string): string {
  return TITLES[kind] ?? kind;
}

/** More causes of one kind than this are gathered by class. */
const MANY = 24;

/** The key of the group in which new classes stand together with everybody who joins them. */
const CLASSES = "classes";

/** The key of the group in which a cause is shown. */
export function groupKey(kind: string, manyJoin: boolean): string {
  return manyJoin && (kind === "joined" || kind === "cohort") ? CLASSES : kind;
}

/** Whether so many join, as at a first import, that they are read by class. */
export function manyJoin(causes: readonly CauseLine[]): boolean {
  return causes.filter(({ kind }) => kind === "joined").length > MANY;
}

/** Gathers the causes of a round by kind, in the order in which they come, and by class where there are many. */
export function groupCauses(causes: readonly CauseLine[]): CauseGroup[] {
  const many = manyJoin(causes);
  const groups = new Map<string, CauseLine[]>();
  for (const cause of causes) {
    const key = groupKey(cause.kind, many);
    const own = groups.get(key);
    if (own === undefined) groups.set(key, [cause]);
    else own.push(cause);
  }
  return [...groups].map(([key, own]) => ({
    key,
    title: key === CLASSES ? "By class" : kindTitle(key),
    causes: own,
    classes: own.length > MANY && own.some(({ group }) => group !== "") ? byClass(own) : undefined,
  }));
}

function byClass(causes: readonly CauseLine[]): { name: string; causes: CauseLine[] }[] {
  const classes = new Map<string, CauseLine[]>();
  for (const cause of causes) {
    const name = cause.group === "" ? "No class" : cause.group;
    const own = classes.get(name);
    if (own === undefined) classes.set(name, [cause]);
    else own.push(cause);
  }
  return [...classes].map(([name, own]) => ({ name, causes: own }));
}
