import { said } from "@amigo/language/say";
import { factKey, type Fact, type Facts } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import { FIRST_RECIPES, recipeFacts } from "@amigo/core/lists/firstRecipes";
import type { RecipeValue } from "@amigo/core/lists/recipe";
import type { Cause } from "@amigo/core/step/cause";
import { findCauses } from "@amigo/core/step/findCauses";
import { planRound } from "@amigo/core/step/planRound";
import { factsOf } from "./audiences";
import type { Size } from "./roster";

const ORIGIN = { from: "hand", by: "the bench", at: "" } as const;
const LEVELS = 12;
const KEPT = 5000;

/**
 * Measures what a round does to lists, in schools of several sizes, beside taking the same facts into an index once: a whole first
 * import with recipes for each level and site, and 5,000 addresses that are always on a list. A step that looks at everybody for
 * every cause would show as a ratio that grows with the school.
 */
export function measureRounds(students: readonly number[] = [2_000, 5_000, 10_000, 20_000]): void {
  console.log("What a round does to lists, beside taking its facts into an index once");
  for (const many of students) {
    const size = { students: many, guardians: many * 1.6, classes: Math.round(many / 33) };
    const { before, after } = firstImport(size);
    const causes = findCauses(before, after);
    const [bare, first, kept] = [
      median(() => indexFacts(after)),
      median(() => planRound(before, causes)),
      median(() => planRound(after, keptCauses(after))),
    ];
    console.log(
      `  ${many.toLocaleString("en-GB").padStart(7)} students, ${causes.length} causes: index ${bare.toFixed(0)} ms, first round ${first.toFixed(0)} ms (${(first / bare).toFixed(1)}), ${KEPT} kept addresses ${kept.toFixed(0)} ms (${(kept / bare).toFixed(1)})`,
    );
  }
}

/** A house before and after its first import: its recipes stand already. */
function firstImport(size: Size): { before: Facts; after: Facts } {
  const [base] = recipeFacts(said(FIRST_RECIPES), ORIGIN);
  const recipes = [
    ...recipeFacts(said(FIRST_RECIPES), ORIGIN),
    ...(
      [
        ["level", "guardians of students of this level"],
        ["site", "students at this site"],
      ] as const
    ).map(
      ([each, audience], at) =>
        ({
          subject: `recipe:${90 + at}`,
          kind: "recipe",
          ref: "",
          value: {
            ...(base?.value as RecipeValue),
            name: audience,
            label: audience,
            each,
            audience,
          },
          origin: ORIGIN,
        }) as Fact,
    ),
  ];
  const before = new Map(recipes.map((fact) => [factKey(fact), fact]));
  const after = new Map([...factsOf(size), ...before]);
  let count = 0;
  for (const fact of [...after.values()])
    if (fact.kind === "student") {
      const level = { ...fact, kind: "level", value: String(count++ % LEVELS) } as Fact;
      after.set(factKey(level), level);
    }
  return { before, after };
}

/** One cause each: somebody's address is always on one list. */
function keptCauses(facts: Facts): Cause[] {
  return [...facts.values()]
    .filter(({ kind }) => kind === "address")
    .slice(0, KEPT)
    .flatMap((fact) => (fact.kind === "address" ? findCauses(new Map(), oneFact(fact.ref)) : []));
}

function oneFact(address: string): Facts {
  const fact = {
    subject: "90:level:1",
    kind: "kept",
    ref: address,
    value: { side: "on", reason: "", by: "the bench", lastDay: "" },
    origin: ORIGIN,
  } as Fact;
  return new Map([[factKey(fact), fact]]);
}

function median(work: () => unknown): number {
  const times = [0, 1, 2].map(() => {
    const begin = performance.now();
    work();
    return performance.now() - begin;
  });
  return times.sort((a, b) => a - b)[1] ?? 0;
}
