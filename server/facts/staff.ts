import { factKey } from "@amigo/core/facts/fact";
import { staffFacts } from "@amigo/core/lists/edit";
import { staffId } from "@amigo/core/facts/subjects";
import type { Queries } from "../db/connect";
import { storeFacts } from "./queries";
import { loadCurrentSeason } from "../db/houseQueries";

/** Makes somebody with an account a person on the staff, who can coach classes and stand in audiences. */
export async function storeStaff(
  db: Queries,
  people: readonly { id: string; name: string; email: string; site: string }[],
  by: string,
): Promise<void> {
  const current = await loadCurrentSeason(db);
  if (current === undefined) return;
  const origin = { from: "hand", by, at: new Date().toISOString() } as const;
  const facts = people.flatMap(({ id, ...rest }) =>
    staffFacts({ id: staffId(id), ...rest }, origin),
  );
  await storeFacts(
    db,
    current.id,
    null,
    new Map(),
    new Map(facts.map((fact) => [factKey(fact), fact])),
  );
}
