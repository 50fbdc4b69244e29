import { dayIn } from "@amigo/core/schedule/dayIn";
import type { getHouse } from "@amigo/contract/house";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { PRECEDENCE } from "@amigo/core/identity/precedence";
import type { RecipeValue } from "@amigo/core/lists/recipe";
import { understoodAudience } from "@amigo/core/lists/understood";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { readPattern, fillPattern } from "@amigo/core/naming/pattern";
import { proposeSiteCode } from "@amigo/core/naming/shortForm";
import { staffId } from "@amigo/core/facts/subjects";
import { LIMITS } from "@amigo/core/step/guards/limits";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import { standingIndex } from "../facts/standing";
import { Refusal } from "../http/fault";
import type { Answer } from "../http/handler";
import { versionOf } from "../http/version";
import { waitsForAddresses } from "../membership/nameWanted";
import { t } from "../texts/t";
import { basicsOf } from "./changeBasics";
import {
  listFormerDomains,
  loadHouse,
  loadCurrentSeason,
  type FormerUse,
} from "../db/houseQueries";
import {
  listSeasons,
  listSitesWithClasses,
  countListsByRecipe,
  listAccountsWithLists,
} from "./queries";

/** Returns the house, its seasons, sites, recipes and accounts. */
export async function showHouse({ db }: Context): Promise<Answer<typeof getHouse>> {
  const house = await loadHouse(db);
  if (house === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const current = await loadCurrentSeason(db);
  // A season whose opening was taken back is neither current nor over.
  const seasons = await listSeasons(db);
  const sites = await listSitesWithClasses(db, current?.id);
  const index = await standingIndex(db, current?.id ?? 0);
  const lists = await countListsByRecipe(db, current?.id);
  const waiting = new Map<number, number>();
  for (const list of wantedLists(index).values())
    if (list.open && list.recipe !== undefined && waitsForAddresses(list, index))
      waiting.set(list.recipe, (waiting.get(list.recipe) ?? 0) + 1);
  const byRecipe = new Map(lists.map((row) => [row.recipeId, row]));
  const accounts = await listAccountsWithLists(db);
  const today = dayIn(house.timeZone, new Date());
  const formerOf = async (use: FormerUse) =>
    (await listFormerDomains(db, use))
      .filter(({ lastDay }) => lastDay >= today)
      .map((former) => ({ use, ...former }));
  return {
    name: house.name,
    insideDomain: house.insideDomain,
    listDomain: house.listDomain,
    timeZone: house.timeZone,
    kind: house.kind,
    country: house.country,
    language: house.language,
    studentAddress: house.studentAddress,
    formerDomains: [...(await formerOf("lists")), ...(await formerOf("inside"))],
    seasons,
    sites,
    recipes: [...index.recipes]
      .sort((x, y) => x[1].position - y[1].position || x[0] - y[0])
      .map(([id, value]) => {
        const understood = understoodAudience(value.audience);
        const example = exampleName(value, index, {
          codes: new Map(sites.map((row) => [row.name, row.code])),
          season: current?.label ?? "",
        });
        return {
          id,
          value,
          sentence: understood.ok
            ? say(audienceSentence(understood.audience))
            : say(understood.fault.sentence),
          lists: byRecipe.get(id)?.count ?? 0,
          apart: byRecipe.get(id)?.apart ?? 0,
          waiting: waiting.get(id) ?? 0,
          example: example === "" ? "" : `${example}@${house.listDomain}`,
        };
      }),
    staff: accounts.map(({ id, name }) => ({ id: staffId(id), name })),
    limits: { ...LIMITS, ...house.limits },
    versions: {
      basics: versionOf(basicsOf(house, sites)),
      limits: versionOf({ ...LIMITS, ...house.limits }),
    },
    twoStep: house.twoStep,
    precedence: PRECEDENCE.map(({ words }) => say(words)),
    accounts: accounts.map(({ id: _, site: at, role, ...row }) => ({
      ...row,
      role: at === null ? role : `${role}, ${at}`,
    })),
  };
}

/** A name as a recipe makes it, for the first class or so that it is for; empty where its pattern can't be read. */
function exampleName(
  value: RecipeValue,
  index: FactIndex,
  { codes, season: label }: { codes: ReadonlyMap<string, string>; season: string },
): string {
  const cohort = [...index.cohorts.values()].find(({ kind }) => kind === value.each);
  if (
    cohort === undefined &&
    (value.each === "class" || value.each === "team" || value.each === "committee")
  )
    return "";
  const site = cohort?.site ?? [...codes.keys()][0] ?? "";
  const read = readPattern(value.pattern);
  const of =
    cohort?.name ??
    (value.each === "site" ? site : value.each === "level" ? "level 4" : value.label);
  return read.ok
    ? fillPattern(
        read.pieces,
        {
          site: site === "" ? "" : (codes.get(site) ?? proposeSiteCode(site)),
          of,
          audience: value.label,
          season: label,
          lead: cohort?.coach ?? "",
        },
        index.shorts,
      )
    : "";
}
