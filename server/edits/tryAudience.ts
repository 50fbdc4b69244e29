import { inOrder } from "@amigo/language/inOrder";
import type { getAudienceWords, postAudienceTry } from "@amigo/contract/audiences";
import { partsOf } from "@amigo/core/audience/audience";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import { becauseOf } from "@amigo/core/audience/becauseOf";
import { bindAudience, type This } from "@amigo/core/audience/bindAudience";
import { checkAudience } from "@amigo/core/audience/checkAudience";
import { completeAudience } from "@amigo/core/audience/completeAudience";
import { houseWords, type HouseWords } from "@amigo/core/audience/houseWords";
import { parseAudience } from "@amigo/core/audience/parseAudience";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import type { CohortValue } from "@amigo/core/facts/cohort";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";
import { workingAddresses } from "@amigo/core/reach/reach";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { Each } from "@amigo/core/lists/recipe";
import { said, say } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { loadStopped } from "../membership/addressQueries";
import type { Request, Answer } from "../http/handler";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { needCurrentSeason } from "../facts/needCurrentSeason";

const FIRST = 8;

/** The house as somebody may know it: its facts, the people whom they may know, undefined for all, and the names of both. */
async function knownHouse(db: Database, caller: Caller) {
  const current = await needCurrentSeason(db);
  const index = await standingIndex(db, current.id);
  const known = caller.role === "coordinator" ? undefined : (await knownPeople(db, caller)).people;
  const words =
    known === undefined
      ? wordsOf(index, current.label)
      : houseWords(
          { ...index, people: new Map([...index.people].filter(([id]) => known.has(id))) },
          current.label,
        );
  return { index, known, words };
}

/** Returns the classes, sites, levels and columns that an audience can name. */
export async function listAudienceWords(
  { db }: Context,
  { caller }: Request<typeof getAudienceWords>,
): Promise<Answer<typeof getAudienceWords>> {
  const { words } = await knownHouse(db, caller);
  return {
    cohorts: words.cohorts
      .map(({ name, kind }) => ({ name, kind }))
      .sort((a, b) => inOrder(a.name, b.name)),
    sites: words.sites,
    levels: words.levels,
    columns: words.columns,
  };
}

/** Returns who belongs to an audience, and how it can go on. */
export async function tryAudience(
  { db }: Context,
  { body, caller }: Request<typeof postAudienceTry>,
): Promise<Answer<typeof postAudienceTry>> {
  const { index, known, words } = await knownHouse(db, caller);
  const completions = completeAudience(body.text.slice(0, body.cursor ?? body.text.length), words);
  const parsed = parseAudience(body.text);
  const nothing = { sentence: "", example: "", people: 0, addresses: 0, first: [], completions };
  if (!parsed.ok)
    return {
      ...nothing,
      faults:
        body.text.trim() === ""
          ? []
          : [{ ...said(parsed.fault), proposal: parsed.fault.proposal ?? null }],
    };
  const faults = checkAudience(
    parsed.audience,
    words,
    body.each !== "" && body.each !== "house",
    body.text,
  ).map((fault) => ({ ...said(fault), proposal: fault.proposal ?? null }));
  const example = exampleOf(body.each, words, index.cohorts.get(listKeyParts(body.list)?.of ?? ""));
  const all = whoBelongs(bindAudience(parsed.audience, example), index);
  // Who is on no list that the asker sees is not told, neither by name nor by number.
  const found = known === undefined ? all : all.filter(({ person }) => known.has(person.id));
  // Nor whether a single child is one of them: only whole classes, sites and levels are measured against what they lead.
  const reachesOthers =
    known !== undefined &&
    [...partsOf(parsed.audience)].some(
      (part) =>
        part.op === "group" &&
        whoBelongs(bindAudience({ ...part, where: undefined }, example), index).some(
          ({ person }) => !known.has(person.id),
        ),
    );
  if (reachesOthers)
    faults.push({
      at: 0,
      length: body.text.length,
      sentence: t("edits.itReachesPeopleWhoAre"),
      proposal: null,
    });
  const stopped = await loadStopped(db);
  return {
    faults,
    completions,
    sentence: say(audienceSentence(parsed.audience)),
    example: example?.name ?? "",
    people: found.length,
    addresses: new Set(found.flatMap(({ person }) => [...person.addresses])).size,
    first: found.slice(0, FIRST).map(({ person, reason }) => ({
      name: nameOf(person),
      because: say(becauseOf(reason, index)),
      reached: workingAddresses(person.addresses, stopped).length > 0,
    })),
  };
}

const WORDS = new WeakMap<FactIndex, HouseWords>();

/** The names of the house, gathered once for as long as nothing changes. */
function wordsOf(index: FactIndex, label: string): HouseWords {
  const known = WORDS.get(index) ?? houseWords(index, label);
  WORDS.set(index, known);
  return known;
}

/** What "this" stands for while an audience is typed: the list's own class, in a recipe the first that it would be for. */
function exampleOf(
  each: Each | "",
  words: HouseWords,
  cohort: CohortValue | undefined,
): This | undefined {
  if (cohort !== undefined) return { kind: cohort.kind, name: cohort.name };
  if (each === "" || each === "house") return undefined;
  const name =
    each === "site"
      ? words.sites[0]
      : each === "level"
        ? words.levels[0]
        : words.cohorts.find(({ kind }) => kind === each)?.name;
  return name === undefined ? undefined : { kind: each, name };
}
