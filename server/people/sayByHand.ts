import { inTransaction } from "../db/inTransaction";
import { Refused, refused, noSuch } from "../refused";
import { each } from "@amigo/language/message";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { sharedIndex } from "@amigo/core/facts/indexFacts";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/factIndex";
import { markWithNames, type PersonLink, type PersonMark } from "@amigo/core/identity/personLink";
import type { Answered, SettledFact } from "@amigo/core/identity/question";
import { hash } from "@amigo/core/text/hash";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { loadByHand, raiseVersion, storeFacts } from "../facts/queries";
import { standingFacts } from "../facts/standing";
import { record } from "../events/record";
import type { Actor } from "../change/carryOut";
import { openRound } from "../change/openRound";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { lockRounds } from "../change/roundQueries";
import { findQuestion, endManual, endManualOf, storeManual } from "./manualQueries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** What came of it: the round that is open now. */
export interface SaidByHand {
  round: number | null;
  causes: number;
}

/** Answers a question of the open ones; it is remembered and not asked again. */
export async function answerQuestion(
  db: Database,
  { actor, key, choice }: { actor: Actor; key: string; choice: string },
): Promise<SaidByHand | Refused> {
  return inSeason(db, async (tx, seasonId) => {
    const asked = await findQuestion(tx, seasonId, key);
    const chosen = asked?.choices.find(({ id }) => id === choice);
    if (asked === undefined || chosen === undefined)
      return refused(409, "question/answered", t("people.thisQuestionIsNoLonger"));
    await say(
      tx,
      actor,
      seasonId,
      key,
      () => t("people.questionAndAnswer", { question: asked.about, answer: chosen.label }),
      chosen.answer,
    );
    return renew(tx);
  });
}

/** Says that two are one person. What they have is put together at once, and every later reading respects it. */
export async function joinPeople(
  db: Database,
  { actor, one, other }: { actor: Actor; one: string; other: string },
): Promise<SaidByHand | Refused> {
  return inSeason(db, async (tx, seasonId) => {
    const stand = await standingFacts(tx, seasonId);
    const index = sharedIndex(stand);
    const left = personOf(index, one);
    if (left instanceof Refused) return left;
    const right = personOf(index, other);
    if (right instanceof Refused) return right;
    if (one === other) return refused(422, "people/same", t("people.thisIsOnePersonAlready"));
    if (left.role !== right.role)
      return refused(
        422,
        "people/roles",
        t("people.isAAndAThey", {
          left: nameOf(left),
          leftRole: left.role,
          right: nameOf(right),
          rightRole: right.role,
        }),
      );
    const { links } = await loadByHand(tx, seasonId);
    if ([...left.ties.keys()].includes(other))
      return refused(422, "people/tied", t("people.oneOfThemIsThe"));
    await say(
      tx,
      actor,
      seasonId,
      `join ${[one, other].sort().join(" ")}`,
      () => t("people.andAreOnePerson", { left: nameOf(left), right: nameOf(right) }),
      {
        does: "link",
        links: [
          { says: "same", left: markWithNames(left, links), right: markWithNames(right, links) },
        ],
      },
    );
    const after = new Map<string, Fact>();
    for (const fact of stand.values()) {
      const moved = {
        ...fact,
        subject: fact.subject === other ? one : fact.subject,
        ref: fact.kind === "tie" && fact.ref === other ? one : fact.ref,
      } as Fact;
      const key = factKey(moved);
      if (fact.subject !== other || !stand.has(key)) after.set(key, moved);
    }
    await storeFacts(tx, seasonId, null, stand, after);
    return renew(tx);
  });
}

/** Says that some children or addresses of a guardian belong to another person of that name. */
export async function partPerson(
  db: Database,
  {
    actor,
    person,
    students,
    addresses,
  }: { actor: Actor; person: string; students: readonly string[]; addresses: readonly string[] },
): Promise<(SaidByHand & { person: string }) | Refused> {
  return inSeason(db, async (tx, seasonId) => {
    const stand = await standingFacts(tx, seasonId);
    const index = sharedIndex(stand);
    const foundPerson = personOf(index, person);
    if (foundPerson instanceof Refused) return foundPerson;
    if (foundPerson.role !== "guardian")
      return refused(422, "people/students-only-guardians", t("people.onlyAGuardianCanBe"));
    const theirs = {
      students: students.filter((id) => foundPerson.ties.has(id)),
      addresses: addresses.filter((address) => foundPerson.addresses.has(address)),
    };
    if (theirs.students.length + theirs.addresses.length === 0)
      return refused(422, "people/nothing-chosen", t("people.chooseTheChildrenOrAddresses"));
    if (theirs.students.length === foundPerson.ties.size)
      return refused(422, "people/all-chosen", t("people.oneChildAtLeastMust"), "students");
    const base = markWithNames(foundPerson, (await loadByHand(tx, seasonId)).links);
    const right: PersonMark = { ...base, students: theirs.students, addresses: theirs.addresses };
    const left: PersonMark = {
      ...base,
      students: base.students.filter((id) => !theirs.students.includes(id)),
      addresses: base.addresses.filter((address) => !theirs.addresses.includes(address)),
    };
    const said: PersonLink = { says: "other", left, right };
    const id = `g-${hash(`parted ${person} ${theirs.students.join(" ")} ${theirs.addresses.join(" ")}`)}`;
    await say(
      tx,
      actor,
      seasonId,
      `part ${person} ${id}`,
      () =>
        t("people.isTwoPeopleOneOf", {
          name: nameOf(foundPerson),
          theirs: each([
            ...theirs.students.map((student) =>
              t("people.guardianOf", { student: nameOf(index.people.get(student)) }),
            ),
            ...theirs.addresses.map((address) => t("people.at", { address })),
          ]),
        }),
      { does: "link", links: [said] },
    );
    const after = new Map<string, Fact>();
    for (const fact of stand.values()) {
      const isTheirs =
        fact.subject === person &&
        ((fact.kind === "tie" && theirs.students.includes(fact.ref)) ||
          (fact.kind === "address" && theirs.addresses.includes(fact.ref)));
      const moved = isTheirs ? { ...fact, subject: id } : fact;
      after.set(factKey(moved), moved);
      if (fact.subject === person && (fact.kind === "guardian" || fact.kind === "name"))
        after.set(factKey({ ...fact, subject: id }), { ...fact, subject: id });
    }
    await storeFacts(tx, seasonId, null, stand, after);
    return { person: id, ...(await renew(tx)) };
  });
}

/** Says which addresses hold for somebody, whatever the sheets say. */
export async function settleByHand(
  db: Database,
  { actor, person, addresses }: { actor: Actor; person: string; addresses: readonly string[] },
): Promise<SaidByHand | Refused> {
  return inSeason(db, async (tx, seasonId) => {
    const foundPerson = personOf(sharedIndex(await standingFacts(tx, seasonId)), person);
    if (foundPerson instanceof Refused) return foundPerson;
    const settled: SettledFact = {
      subject: person,
      kind: "address",
      facts: addresses.map((address) => ({ ref: address, value: "" })),
    };
    await say(
      tx,
      actor,
      seasonId,
      `addresses ${person}`,
      () =>
        t("people.isReachedAt", {
          name: nameOf(foundPerson),
          count: addresses.length,
          addresses: each(addresses),
        }),
      { does: "settle", settled },
    );
    return renew(tx);
  });
}

/** Takes a word back: from now on the sheets decide again. */
export async function withdrawByHand(
  db: Database,
  { actor, id }: { actor: Actor; id: number },
): Promise<SaidByHand | Refused> {
  return inSeason(db, async (tx) => {
    const found = await endManual(tx, id);
    if (found === undefined) return noSuch("wordInForce");
    await raiseVersion(tx, found.seasonId, new Set());
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "withdraw",
      sentence: () =>
        t("people.tookBackWhatWasSaid", { name: actor.name, sentence: found.sentence }),
      before: found.sentence,
    });
    return renew(tx);
  });
}

async function say(
  tx: Queries,
  actor: Actor,
  seasonId: number,
  key: string,
  said: () => string,
  answer: Answered,
): Promise<void> {
  const sentence = inStaffLanguage(said);
  await endManualOf(tx, seasonId, key);
  await storeManual(tx, seasonId, key, answer, sentence, actor.name);
  await raiseVersion(tx, seasonId, new Set());
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "say by hand",
    sentence: () => `${actor.name}: ${sentence}`,
    after: answer,
  });
}

async function inSeason<Answer>(
  db: Database,
  run: (tx: Queries, seasonId: number) => Promise<Answer>,
): Promise<Answer> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const current = await needCurrentSeason(tx);
    return run(tx, current.id);
  });
}

async function renew(tx: Queries): Promise<SaidByHand> {
  const round = await openRound(tx);
  await notify(tx, "people", "rounds", "board");
  return { round: round.number, causes: round.causes };
}

function personOf(index: FactIndex, id: string): Person | Refused {
  const found = index.people.get(id);
  if (found === undefined) return noSuch("person");
  return found;
}
