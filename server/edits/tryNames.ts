import { inOrder } from "@amigo/language/inOrder";
import type { postNamesTry } from "@amigo/contract/naming";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { faultsOfName, nameFaultSentence } from "@amigo/core/naming/nameFault";
import { readPattern } from "@amigo/core/naming/pattern";
import { proposeShortForms } from "@amigo/core/naming/shortForm";
import { fold } from "@amigo/core/text/fold";
import { say, said } from "@amigo/language/say";
import type { Context } from "../context";
import { standingIndex } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { houseNaming, nameByConvention } from "../membership/nameWanted";
import { today } from "./queries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Returns what every list would be called by other patterns and short forms. */
export async function tryNames(
  { db }: Context,
  { body }: Request<typeof postNamesTry>,
): Promise<Answer<typeof postNamesTry>> {
  const current = await needCurrentSeason(db);
  const standing = await standingIndex(db, current.id);
  const recipes = new Map(
    [...standing.recipes].map(([id, value]) => [
      id,
      { ...value, pattern: body.patterns[id] ?? value.pattern },
    ]),
  );
  const shorts = new Map(standing.shorts);
  for (const [name, short] of Object.entries(body.shorts)) {
    if (short === null || short === "") shorts.delete(fold(name));
    else shorts.set(fold(name), short);
  }
  const index: FactIndex = { ...standing, recipes, shorts };
  const lists = [...wantedLists(index).values()].filter(
    ({ open, name }) => open && name !== undefined,
  );
  const naming = await houseNaming(db, current.id, await today(db));
  const named = new Map(
    nameByConvention(
      lists.filter(({ recipe }) => recipe !== undefined),
      index,
      naming,
    ).map((convention) => [convention.key, convention]),
  );
  const names = [
    ...new Set([
      ...[...index.cohorts.values()].map(({ name }) => name),
      ...[...recipes.values()].map(({ label }) => label),
    ]),
  ].sort((a, b) => inOrder(a, b));
  const proposed = proposeShortForms(names, shorts);
  return {
    rows: lists
      .map(({ key, title, site, recipe, name = "" }) => {
        const found = named.get(key) ?? {
          name,
          proposal: name,
          faults: faultsOfName(name, naming.rules),
        };
        return {
          key,
          title,
          site,
          recipe: recipe ?? null,
          now: name,
          made: found.name,
          proposal: found.proposal,
          faults: found.faults.map((fault) => ({
            fault,
            sentence: say(nameFaultSentence(fault, found.name, naming.rules)),
          })),
        };
      })
      .sort((a, b) => inOrder(a.site, b.site) || inOrder(a.title, b.title)),
    shorts: names.map((name) => ({
      name,
      short: shorts.get(fold(name)) ?? proposed.get(fold(name)) ?? "",
      chosen: shorts.has(fold(name)),
    })),
    faults: [...recipes].flatMap(([recipe, { pattern }]) => {
      const read = readPattern(pattern);
      return read.ok
        ? []
        : [{ recipe, ...said(read.fault), proposal: read.fault.proposal ?? null }];
    }),
  };
}
