import { CLASSES, type OutlineClass, type RoundOutline } from "@amigo/contract/causes";

/** The kinds that stand in the section of classes. */
export const KINDS_BY_CLASS = ["joined", "cohort"] as const;

/** More causes of one section than this are gathered by class. */
const MANY = 24;

/** Causes of one kind and one class, counted. */
export interface OutlineCount {
  kind: string;
  name: string;
  count: number;
  accepted: number;
  unreachable: number;
  joins: number;
  leaves: number;
  replaced: number;
}

/** What a class gets in a round in which many join. */
export type Joining = ReadonlyMap<string, { guardians: number; newLists: number }>;

/**
 * Gathers the causes of a round by section, in the order in which the first of each comes, and by class where there are many.
 *
 * @param counts    by kind and class, in the order in which the first of each comes
 * @param isByClass whether the round is read by class, as a first import is
 * @param joining   what each class gets, where that is told
 */
export function outlineOf(
  counts: readonly OutlineCount[],
  isByClass: boolean,
  joining: Joining,
): RoundOutline {
  const sections = new Map<string, OutlineCount[]>();
  for (const item of counts) {
    const key = isByClass && isKindByClass(item.kind) ? CLASSES : item.kind;
    const section = sections.get(key);
    if (section === undefined) sections.set(key, [item]);
    else section.push(item);
  }
  const shown = sum(counts, "count");
  return {
    shown,
    held: shown - sum(counts, "accepted"),
    sections: [...sections].map(([key, items]) => {
      const count = sum(items, "count");
      return {
        key,
        count,
        accepted: sum(items, "accepted"),
        classes:
          count > MANY && items.some(({ name }) => name !== "")
            ? byClass(items, key === CLASSES ? joining : new Map())
            : null,
      };
    }),
  };
}

function byClass(items: readonly OutlineCount[], joining: Joining): OutlineClass[] {
  const classes = new Map<string, OutlineCount[]>();
  for (const item of items) {
    const ofClass = classes.get(item.name);
    if (ofClass === undefined) classes.set(item.name, [item]);
    else ofClass.push(item);
  }
  return [...classes].map(([name, ofClass]) => {
    const students = sum(
      ofClass.filter(({ kind }) => kind === "joined"),
      "count",
    );
    return {
      name,
      count: sum(ofClass, "count"),
      accepted: sum(ofClass, "accepted"),
      students,
      others: sum(
        ofClass.filter(({ kind }) => !isKindByClass(kind)),
        "count",
      ),
      unreachable: sum(ofClass, "unreachable"),
      joins: sum(ofClass, "joins"),
      leaves: sum(ofClass, "leaves"),
      replaced: sum(ofClass, "replaced"),
      ...(joining.get(name) ?? { guardians: 0, newLists: 0 }),
    };
  });
}

function isKindByClass(kind: string): boolean {
  return KINDS_BY_CLASS.some((one) => one === kind);
}

function sum(items: readonly OutlineCount[], what: Exclude<keyof OutlineCount, "kind" | "name">) {
  return items.reduce((total, item) => total + item[what], 0);
}
