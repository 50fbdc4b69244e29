import { inStaffLanguage } from "../texts/inLanguage";
import { say } from "@amigo/language/say";
import { packFacts } from "@amigo/core/facts/packFacts";
import type { Cause } from "@amigo/core/step/cause";
import type { Change } from "@amigo/core/step/change";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";

/** What somebody has decided of a cause. */
export type Decision = "accepted" | "held";

/** A cause of a round with what was decided of it. */
export interface CauseRow extends Cause {
  position: number;
  unreachable: boolean;
  decision: Decision;
  history: string;
}

/** What a cause says, in the language of the house: many read it, for years. */
const asStored = ({ title, detail, sentence }: CauseRow): string[] =>
  inStaffLanguage(() => [say(title), say(detail), say(sentence)]);

/** Stores the causes of a round with the list updates of each. */
export async function storeCauses(
  tx: Queries,
  number: number,
  rows: readonly CauseRow[],
  changes: ReadonlyMap<string, Change[]>,
): Promise<void> {
  function* values(): Generator<CopyValue[]> {
    for (const row of rows) {
      const change = changes.get(row.key) ?? [];
      const { sources, joins, leaves, replaced, lists } = describeCause(row, change);
      yield [
        number,
        row.position,
        row.key,
        row.kind,
        row.subject,
        ...asStored(row),
        row.group,
        packFacts(row.adds),
        packFacts(row.removes),
        sources,
        JSON.stringify(change),
        joins,
        leaves,
        replaced,
        lists,
        row.unreachable,
        row.decision,
        row.history,
      ];
    }
  }
  await copyInto(
    tx,
    `cause (round, position, key, kind, subject, title, detail, sentence, "group", adds, removes, sources, changes, joins, leaves, replaced, lists, unreachable, decision, history)`,
    values(),
  );
}

/** Counts the changes of one kind. */
export function countKind(changes: readonly Change[], kind: Change["kind"]): number {
  return changes.reduce((sum, change) => (change.kind === kind ? sum + 1 : sum), 0);
}

/** Returns the keys of the lists that changes touch. */
export function listsOf(changes: readonly Change[]): string[] {
  return [...new Set(changes.map(({ list }) => list))];
}

/** What goes with a cause in its row: its sources, and its changes counted. */
export function describeCause(cause: Cause, changes: readonly Change[]) {
  return {
    sources: sourcesOf(cause),
    joins: countKind(changes, "joins"),
    leaves: countKind(changes, "leaves"),
    replaced: countKind(changes, "replaced"),
    lists: listsOf(changes),
  };
}

function sourcesOf({ adds, removes }: Pick<Cause, "adds" | "removes">): string[] {
  const sources = new Set<string>();
  for (const { origin } of adds) if (origin.from === "row") sources.add(origin.source);
  for (const { origin } of removes) if (origin.from === "row") sources.add(origin.source);
  return [...sources];
}
