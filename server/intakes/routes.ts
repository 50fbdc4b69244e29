import { and, desc, eq, inArray, isNull } from "drizzle-orm";
import type { Hono } from "hono";
import type { z } from "zod";
import { nextReading } from "@amigo/core/schedule/nextReading";
import {
  getIntake,
  getIntakeChoices,
  getIntakeHistory,
  getIntakes,
  postIntake,
  postIntakeApproval,
  postIntakeCells,
  postIntakeRemove,
  putIntake,
  putWatch,
} from "@amigo/contract/intakes";
import { callerMay, type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { isTaken } from "../db/isTaken";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { record } from "../journal/record";
import { loadList } from "../membership/loadList";
import { changeableBy } from "../membership/scope";
import { approveRows } from "./approve";
import { intakeLines, intakePage, loadIntake, targetsOf } from "./queries";
import { removeRows, writeCells } from "./writeCells";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house, season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { list } from "../db/schema/lists";
import { intake, intakePerson, intakeRow, intakeChange } from "../db/schema/intakes";
import { watch } from "../db/schema/notes";

type Wanted = z.output<typeof postIntake.body & object>;

/** Intakes: making them, filling them together, approving rows, and watching. */
export function intakeRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;

  route(app, context, getIntakes, async ({ caller }) => ({
    intakes: await intakeLines(db, caller),
    mayMake: callerMay(caller, "make intakes"),
  }));

  route(app, context, getIntakeChoices, async ({ caller }) => {
    const accounts = await db
      .select({ id: account.id, name: account.name })
      .from(account)
      .where(accountInForce)
      .orderBy(account.name);
    return {
      lists: await targetsOf(db, await currentSeason(db), [], changeableBy(caller)),
      accounts,
      every: caller.role === "coordinator",
    };
  });

  route(app, context, postIntake, async ({ body, caller }) => {
    const seasonId = await currentSeason(db);
    await checkLists(caller, seasonId, body.content);
    return db.transaction(async (tx) => {
      const [made] = await tx
        .insert(intake)
        .values({
          seasonId,
          accountId: caller.id,
          name: body.content.name,
          content: body.content,
          nextAt: await nextAt(tx, body.content),
        })
        .onConflictDoNothing()
        .returning({ id: intake.id });
      if (made === undefined) throw nameTaken(body.content.name);
      await storePeople(tx, made.id, body.people);
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "make intake",
        sentence: t("intakes.madeTheAdditionsSheet", {
          name: caller.name,
          sheet: body.content.name,
        }),
        after: { intake: made.id, ...body },
      });
      await notify(tx, "intakes");
      return { id: made.id };
    });
  });

  route(app, context, getIntake, async ({ params, caller }) =>
    intakePage(db, await loadIntake(db, params.id, caller), caller),
  );

  route(app, context, putIntake, async ({ params, body, caller }) => {
    const before = await loadIntake(db, params.id, caller);
    if (!before.may.change)
      throw new Refusal(403, "intake/change", t("intakes.onlyWhoeverMadeThisSheet"));
    await checkLists(caller, before.seasonId, body.content);
    return db.transaction(async (tx) => {
      const [own] = await tx
        .update(intake)
        .set({
          name: body.content.name,
          content: body.content,
          version: body.version + 1,
          nextAt: await nextAt(tx, body.content),
        })
        .where(and(eq(intake.id, before.id), eq(intake.version, body.version)))
        .returning({ version: intake.version })
        .catch((failure: unknown) => {
          throw isTaken(failure) ? nameTaken(body.content.name) : failure;
        });
      if (own === undefined)
        throw new Refusal(409, "intake/changed", t("intakes.somebodyElseChangedThisSheet"));
      await tx.delete(intakePerson).where(eq(intakePerson.intakeId, before.id));
      await storePeople(tx, before.id, body.people);
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change intake",
        sentence: t("intakes.changedTheAdditionsSheet", {
          name: caller.name,
          sheet: body.content.name,
        }),
        before: { content: before.content },
        after: { intake: before.id, content: body.content, people: body.people },
      });
      await notify(tx, "intakes");
      return { version: own.version };
    });
  });

  route(app, context, postIntakeCells, async ({ params, body, caller }) =>
    writeCells(db, (await loadIntake(db, params.id, caller)).id, body.changes, caller),
  );

  route(app, context, postIntakeRemove, async ({ params, body, caller }) =>
    removeRows(db, (await loadIntake(db, params.id, caller)).id, body.rows, body.back, caller),
  );

  route(app, context, postIntakeApproval, async ({ params, body, caller }) => {
    const own = await loadIntake(db, params.id, caller);
    const answer = await approveRows(db, own, body.rows, body.approve, caller);
    if (body.approve && answer.done > 0 && own.content.times === null)
      await desk.run("carryOutRows", { intakeId: own.id, now: new Date() });
    return answer;
  });

  route(app, context, getIntakeHistory, async ({ params, caller }) => {
    const [row] = await db
      .select({ intakeId: intakeRow.intakeId })
      .from(intakeRow)
      .where(eq(intakeRow.id, params.id));
    if (row === undefined) throw notFound("row");
    await loadIntake(db, row.intakeId, caller);
    const rows = await db
      .select({
        at: intakeChange.at,
        by: intakeChange.by,
        what: intakeChange.what,
        before: intakeChange.before,
        after: intakeChange.after,
      })
      .from(intakeChange)
      .where(eq(intakeChange.rowId, params.id))
      .orderBy(desc(intakeChange.id))
      .limit(200);
    return rows.map((own) => ({ ...own, at: own.at.toISOString() }));
  });

  route(app, context, putWatch, async ({ body, caller }) => {
    const { what, id, watching } = body;
    if (what === "list") {
      if (!callerMay(caller, "see lists")) throw notFound("list");
      await loadList(db, id, caller);
    } else await loadIntake(db, id, caller);
    if (watching)
      await db
        .insert(watch)
        .values({ accountId: caller.id, what, about: id })
        .onConflictDoNothing();
    else
      await db
        .delete(watch)
        .where(and(eq(watch.accountId, caller.id), eq(watch.what, what), eq(watch.about, id)));
    return { watching };
  });

  /** A lead makes intakes for the lists that they may change, and for no others; a coordinator for any. */
  async function checkLists(
    caller: Caller,
    seasonId: number,
    { lists }: Wanted["content"],
  ): Promise<void> {
    if (caller.role === "coordinator" && lists.length === 0) return;
    const own = new Set(
      (
        await db
          .select({ id: list.id })
          .from(list)
          .where(
            and(
              eq(list.seasonId, seasonId),
              isNull(list.closedAt),
              changeableBy(caller),
              lists.length === 0 ? undefined : inArray(list.id, lists),
            ),
          )
      ).map(({ id }) => id),
    );
    if (lists.length === 0 || lists.some((id) => !own.has(id)))
      throw new Refusal(403, "intake/lists", t("intakes.chooseTheListsThatYou"), "lists");
  }
}

async function currentSeason(db: Queries): Promise<number> {
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  if (current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  return current.id;
}

async function nextAt(db: Queries, { times }: Wanted["content"]): Promise<Date | null> {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  return times === null
    ? null
    : (nextReading({ when: "times", ...times }, "watched", new Date(), own?.timeZone ?? "UTC") ??
        null);
}

async function storePeople(tx: Queries, intakeId: string, people: Wanted["people"]): Promise<void> {
  const known =
    people.length === 0
      ? []
      : await tx
          .select({ id: account.id })
          .from(account)
          .where(
            and(
              inArray(
                account.id,
                people.map(({ account: id }) => id),
              ),
              accountInForce,
            ),
          );
  const there = new Set(known.map(({ id }) => id));
  if (people.some(({ account: id }) => !there.has(id)))
    throw new Refusal(422, "intake/people", t("intakes.oneOfThesePeopleHas"), "people");
  if (people.length > 0)
    await tx
      .insert(intakePerson)
      .values(people.map(({ account: accountId, role }) => ({ intakeId, accountId, role })))
      .onConflictDoNothing();
}

function nameTaken(name: string): Refusal {
  return new Refusal(409, "intake/name-taken", t("intakes.thereIsASheetCalled", { name }), "name");
}
