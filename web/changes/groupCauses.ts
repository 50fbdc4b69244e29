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

/** Gathers the causes of a round by kind, in the order in which they come, and by class where there are many. */
export function groupCauses(causes: readonly CauseLine[]): CauseGroup[] {
  const groups = new Map<string, CauseLine[]>();
  for (const cause of causes) groups.set(cause.kind, [...(groups.get(cause.kind) ?? []), cause]);
  return [...groups].map(([key, own]) => ({
    key,
    title: kindTitle(key),
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
