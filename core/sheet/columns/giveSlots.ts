import { meaningOf } from "../meanings/allMeanings";
import type { MeaningId } from "../meanings/meaning";
import { surplus } from "../relations/nameInAddress";
import type { Evidence } from "./evidence";

/** The columns of one guardian, as far as they are found together. */
interface Guardian {
  names: number[];
  addresses: number[];
  relationships: number[];
  key: string;
}

/** The slot of each column, and the addresses of which only their order says whose they are. */
export interface Slots {
  /** 0 where a meaning has none; undefined where there is no guardian left for the column. */
  of: (number | undefined)[];
  guessed: ReadonlySet<number>;
}

const LAST_GUARDIAN = 4;
const SAME_SLOT = 6;
const OTHER_SLOT = -8;
const FITS = 6;
const NEAR = 1.5;
/** The second address is the second guardian's, where nothing else tells. */
const SAME_PLACE = 1;
/** A name that appears in at least this share of the addresses tells whose they are. */
const TELLS = 0.15;

/**
 * Gives every guardian's column its guardian, from 1: by what titles say ("Mother", "2"), by whose name stands in the
 * address, and by what stands side by side. Columns of children, marks and further columns are numbered, too.
 *
 * @param settled columns whose slot somebody has said
 */
export function giveSlots(
  labels: readonly MeaningId[],
  evidence: Evidence,
  settled: ReadonlyMap<number, { slot: number }> = new Map(),
): Slots {
  const slots: (number | undefined)[] = labels.map(() => 0);
  const guardians = gather(labels, evidence);
  guardians.sort((a, b) => rank(a) - rank(b));
  guardians.forEach((guardian, at) => {
    for (const column of [...guardian.names, ...guardian.addresses, ...guardian.relationships])
      slots[column] = at < LAST_GUARDIAN ? at + 1 : undefined;
  });
  const counts = new Map<MeaningId, number>();
  labels.forEach((label, column) => {
    const { slotted, ofChild, most = LAST_GUARDIAN } = meaningOf(label);
    const key = evidence.columns[column]?.title.slot ?? "";
    if (ofChild === true && evidence.children > 1)
      slots[column] = /^\d$/.test(key) ? Number(key) : 0;
    if (!slotted || label.startsWith("guardian.")) return;
    const count = (counts.get(label) ?? 0) + 1;
    counts.set(label, count);
    slots[column] = count <= most ? count : undefined;
  });
  // What somebody has said stands; who had that guardian's place before changes places with it.
  for (const [column, { slot }] of settled) {
    const before = slots[column];
    if (slot === before) continue;
    labels.forEach((label, other) => {
      if (label === labels[column] && slots[other] === slot && !settled.has(other))
        slots[other] = before;
    });
    slots[column] = slot;
  }
  return { of: slots, guessed: guessedIn(guardians, evidence, settled) };
}

/**
 * The addresses that neither a title, nor a name in them, nor the name in front gives to one of several guardians. Where all
 * others are told, the last one is the last guardian's.
 */
function guessedIn(
  guardians: readonly Guardian[],
  evidence: Evidence,
  settled: ReadonlyMap<number, unknown>,
): Set<number> {
  const named = guardians.filter(({ names }) => names.length > 0);
  const isTold = (guardian: Guardian, column: number): boolean => {
    const key = evidence.columns[column]?.title.slot ?? "";
    return (
      settled.has(column) ||
      (key !== "" && key === guardian.key) ||
      guardian.names.includes(column - 1) ||
      guardian.names.some((name) => surplus(evidence.holds(name, column)) >= TELLS)
    );
  };
  const untold = named.flatMap((guardian) =>
    guardian.addresses
      .filter((column) => !isTold(guardian, column))
      .map((column) => ({ own: guardian, column })),
  );
  const others = named.filter(({ addresses }) => addresses.length > 0).length - untold.length;
  const isLastOne = untold.length === 1 && others > 0 && others === named.length - 1;
  return new Set(named.length < 2 || isLastOne ? [] : untold.map(({ column }) => column));
}

/** Numbered guardians in their order; else the mother before the father; else as they stand. */
function rank({ key, names, addresses, relationships }: Guardian): number {
  const first = Math.min(...names, ...addresses, ...relationships);
  if (/^\d$/.test(key)) return Number(key) * 1000 + first;
  if (key === "mother") return 1000;
  if (key === "father") return 2000;
  return 1000 + first;
}

function gather(labels: readonly MeaningId[], evidence: Evidence): Guardian[] {
  const keyOf = (column: number): string => {
    const { title } = evidence.columns[column] ?? {};
    return title === undefined || (title.whose.has("student") && evidence.children > 1)
      ? ""
      : title.slot;
  };
  const of = (meaning: MeaningId): number[] =>
    labels.flatMap((label, column) => (label === meaning ? [column] : []));
  const guardians: Guardian[] = [];
  const open = (column: number, part: "names" | "addresses" | "relationships"): void => {
    const guardian: Guardian = { names: [], addresses: [], relationships: [], key: keyOf(column) };
    guardian[part].push(column);
    guardians.push(guardian);
  };
  for (const column of of("guardian.name")) open(column, "names");
  const families = new Set(of("guardian.surname"));
  for (const column of of("guardian.given")) {
    open(column, "names");
    const guardian = guardians[guardians.length - 1];
    const partner = [...families].sort(
      (a, b) => pairing(column, b, keyOf) - pairing(column, a, keyOf),
    )[0];
    if (guardian === undefined || partner === undefined) continue;
    families.delete(partner);
    guardian.names.push(partner);
    if (guardian.key === "") guardian.key = keyOf(partner);
  }
  for (const column of families) open(column, "names");
  guardians.sort((a, b) => Math.min(...a.names) - Math.min(...b.names));
  const addresses = of("guardian.address");
  attach(
    guardians,
    addresses,
    "addresses",
    (item, column) => {
      const fits = Math.max(0, ...item.names.map((name) => surplus(evidence.holds(name, column))));
      const isSamePlace = guardians.indexOf(item) === addresses.indexOf(column);
      return FITS * fits + closeness(item, column, keyOf) + (isSamePlace ? SAME_PLACE : 0);
    },
    open,
  );
  attach(
    guardians,
    of("guardian.relationship"),
    "relationships",
    (item, column) => closeness(item, column, keyOf),
    open,
  );
  return guardians;
}

/** Gives columns to guardians who have none of the kind yet, the best matches first; what is left over is somebody else's. */
function attach(
  guardians: Guardian[],
  columns: readonly number[],
  part: "addresses" | "relationships",
  points: (guardian: Guardian, column: number) => number,
  open: (column: number, part: "addresses" | "relationships") => void,
): void {
  const bids = columns
    .flatMap((column) =>
      guardians.map((guardian) => ({ own: guardian, column, points: points(guardian, column) })),
    )
    .filter((bid) => bid.points > 0)
    .sort((a, b) => b.points - a.points);
  const placed = new Set<number>();
  for (const { own: guardian, column } of bids) {
    if (placed.has(column) || guardian[part].length > 0) continue;
    placed.add(column);
    guardian[part].push(column);
  }
  for (const column of columns) if (!placed.has(column)) open(column, part);
}

function closeness(guardian: Guardian, column: number, keyOf: (column: number) => string): number {
  const key = keyOf(column);
  const all = [...guardian.names, ...guardian.addresses];
  const distance = Math.min(...all.map((other) => Math.abs(other - column)));
  // What stands in front of a column belongs to it rather than what stands behind.
  const before = all.some((other) => other < column) ? 0.2 : 0;
  return saysSame(key, guardian.key) + NEAR / distance + before + 0.05;
}

/** Whether titles say that two columns are of one guardian: "2" and "2" are; "mother" and "1" say nothing of each other. */
function saysSame(one: string, other: string): number {
  if (one === "" || other === "" || /^\d$/.test(one) !== /^\d$/.test(other)) return 0;
  return one === other ? SAME_SLOT : OTHER_SLOT;
}

function pairing(given: number, family: number, keyOf: (column: number) => string): number {
  const [one, other] = [keyOf(given), keyOf(family)];
  return saysSame(one, other) + NEAR / Math.abs(given - family);
}
