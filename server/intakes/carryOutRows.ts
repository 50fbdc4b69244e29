import { Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { day } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { readIntakeRow, type IntakeWish } from "@amigo/core/intake/readIntakeRow";
import type { Fact } from "@amigo/core/facts/fact";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { admit, outsideWords } from "../membership/outside";
import { addMembersIn } from "../change/changeMembers";
import { readsOf } from "./queries";
import { dayWriter } from "./dayWriter";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import type { intake, intakeRow } from "../db/schema/intakes";
import { lockApprovedRows, storeOutcomes, type Came, keepHistory } from "./rowQueries";
import { findList, findMembersAmong, findKeptAmong, findAsksAmong } from "../membership/queries";
import { lockRounds } from "../change/roundQueries";
import { findIntake } from "./intakeQueries";

/** A row that is to be carried out. */
interface Due {
  row: typeof intakeRow.$inferSelect;
  wish: IntakeWish;
}

/**
 * Carries out the approved rows of an intake whose first day has come, each once, and stores the result of each: on its
 * list, there before (and then not mailed again), asked, waiting for a lead, or not taken and why.
 */
export async function carryOutRows(
  db: Database,
  { intakeId, now }: { intakeId: string; now: Date },
): Promise<{ carried: number } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const intake = await findIntake(tx, intakeId);
    if (intake === undefined) return { carried: 0 };
    const reads = await readsOf(tx, intake, now);
    const rows = await lockApprovedRows(tx, intakeId);
    const came = new Map<string, Came & { wish?: IntakeWish }>();
    const due: Due[] = [];
    for (const row of rows) {
      const read = readIntakeRow(row.cells, reads);
      if (!read.ok)
        came.set(row.id, {
          outcome: "refused",
          sentence: say(read.faults[0]?.sentence ?? t("intakes.thisRowCantBeRead")),
        });
      else if (read.wish.from <= reads.today) due.push({ row, wish: read.wish });
    }
    for (const [listId, ofList] of groupBy(due, ({ wish }) => wish.target.id)) {
      const settled = await settleKnown(tx, listId, ofList);
      for (const [id, what] of settled) came.set(id, what);
      const fresh = ofList.filter(({ row }) => !settled.has(row.id));
      for (const group of groupBy(
        fresh,
        ({ row, wish }) => `${row.approvedById ?? ""} ${wish.until}`,
      ).values()) {
        for (const [id, what] of await addGroup(tx, intake, listId, group)) came.set(id, what);
      }
    }
    for (const { row, wish } of due) {
      const what = came.get(row.id);
      if (what !== undefined) came.set(row.id, { ...what, wish });
    }
    await storeOutcomes(tx, now, came);
    await keepHistory(
      tx,
      [...came].map(([rowId, { outcome, sentence }]) => ({
        rowId,
        by: "Amigo",
        what: "outcome",
        before: "",
        after: `${outcome}: ${sentence}`,
      })),
    );
    if (came.size > 0) await notify(tx, "intakes", "board");
    return { carried: came.size };
  });
}

/** What can be said of rows without adding anybody: who is on the list, is kept off it, was asked already, stands twice, or may not be on it. */
async function settleKnown(
  tx: Queries,
  listId: string,
  due: readonly Due[],
): Promise<Map<string, Came>> {
  const of = await findList(tx, listId);
  const came = new Map<string, Came>();
  if (of === undefined || of.closedAt !== null) {
    for (const { row } of due)
      came.set(row.id, { outcome: "refused", sentence: t("intakes.thisListWasClosedMeanwhile") });
    return came;
  }
  const addresses = [...new Set(due.map(({ wish }) => wish.address))];
  const members = new Map(
    (await findMembersAmong(tx, listId, addresses)).map(({ address, from }) => [address, from]),
  );
  const kept = new Map(
    ((await findKeptAmong(tx, of.seasonId, of.key, addresses)) as Fact[]).flatMap((fact) =>
      fact.kind === "kept" && fact.value.side === "off" ? [[fact.ref, fact.value] as const] : [],
    ),
  );
  const pending = new Map(
    (await findAsksAmong(tx, listId, addresses)).map((ask) => [ask.address, ask]),
  );
  const { refused } = await admit(tx, of, addresses);
  const dayOf = await dayWriter(tx);
  const met = new Set<string>();
  for (const {
    row,
    wish: { address },
  } of due) {
    const since = members.get(address);
    const off = kept.get(address);
    const asked = pending.get(address);
    if (since !== undefined)
      came.set(row.id, {
        outcome: "already",
        sentence: t("intakes.onTheListSinceNothing", { since: dayOf(since) }),
      });
    else if (off !== undefined)
      came.set(row.id, {
        outcome: "refused",
        sentence: t("intakes.keptOffThisListBy", {
          by: off.by,
          reason: off.reason,
        }),
      });
    else if (asked !== undefined)
      came.set(row.id, {
        outcome: asked.kind === "ask" ? "asked" : "waiting",
        sentence:
          asked.kind === "ask"
            ? t("intakes.wasAskedOnAndHas", { day: dayOf(asked.at) })
            : t("intakes.waitsForALeadOf"),
      });
    else if (refused.has(address))
      came.set(row.id, {
        outcome: "refused",
        sentence: t("intakes.outsideYourDomainsAnd", { why: outsideWords(of.rules) }),
      });
    else if (met.has(address))
      came.set(row.id, {
        outcome: "already",
        sentence: t("intakes.twiceInThisSheetThe"),
      });
    met.add(address);
  }
  return came;
}

/** Adds the addresses of rows that one person has approved, with one last day, to one list. */
async function addGroup(
  tx: Queries,
  eachIntake: typeof intake.$inferSelect,
  listId: string,
  group: readonly Due[],
): Promise<Map<string, Came>> {
  const [first] = group;
  const { how, welcome } = eachIntake.content;
  const lastDay = first?.wish.until ?? "";
  const done = await addMembersIn(
    tx,
    { id: first?.row.approvedById ?? null, name: first?.row.approvedBy ?? "" },
    {
      listId,
      how,
      lastDay,
      words: welcome,
      addresses: group.map(({ wish }) => wish.address),
      reason: inStaffLanguage(() => t("intakes.byTheAdditionsSheet", { name: eachIntake.name })),
      reasons: new Map(
        group.map(({ row, wish }) => [
          wish.address,
          t("intakes.byTheAdditionsSheetWritten", {
            person: wish.person,
            name: eachIntake.name,
            by: row.by,
          }),
        ]),
      ),
    },
  );
  if (done instanceof Refused) {
    const sentence = say(done.detail);
    return new Map(group.map(({ row }) => [row.id, { outcome: "refused", sentence }]));
  }
  const cameOn = t("intakes.onTheList", { until: day(lastDay), welcomed: how === "welcome" });
  return new Map(
    group.flatMap(({ row, wish }): [string, Came][] => {
      const of = (side: keyof typeof done): boolean => done[side].includes(wish.address);
      if (of("waiting"))
        return [[row.id, { outcome: "waiting", sentence: t("intakes.waitsUntilALeadOf") }]];
      if (of("asked"))
        return [[row.id, { outcome: "asked", sentence: t("intakes.wasAskedByMailOn") }]];
      return [[row.id, { outcome: "added", sentence: cameOn }]];
    }),
  );
}

function groupBy<Value>(
  values: readonly Value[],
  keyOf: (value: Value) => string,
): Map<string, Value[]> {
  const groups = new Map<string, Value[]>();
  for (const value of values) {
    const key = keyOf(value);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [value]);
    else group.push(value);
  }
  return groups;
}
