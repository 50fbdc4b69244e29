import { Refused, refused, noSuch } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { day } from "@amigo/language/message";
import type { HouseRole } from "@amigo/core/access/may";
import { staffId } from "@amigo/core/facts/subjects";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { changeStaff } from "../rounds/planEdit";
import type { Editor } from "../rounds/editRights";
import { t } from "../texts/t";
import {
  storeAccount,
  findRights,
  storeRights,
  setEnded,
  removeHelperSources,
  findSources,
  storeHelperSources,
  findOtherCoordinator,
  listStaffRows,
  listEndedStaff,
} from "./queries";
import { removeSessions } from "../accounts/queries";
import { lockRounds } from "../change/roundQueries";

/** What is given to an account. `lastDay` is a calendar date, empty for no end. */
interface Given {
  role: HouseRole;
  siteId: number | null;
  sources: readonly string[];
  lastDay: string;
}

export type AccountChange =
  | ({ what: "invite"; name: string; email: string } & Given)
  | ({ what: "role"; id: string } & Given)
  | { what: "end"; id: string; ended: boolean };

/**
 * Makes, changes or ends an account. Whoever is on the staff by it comes onto the lists of the staff, and leaves them,
 * by a round of its own.
 *
 * Refused with 409 when the address has an account, or when no coordinator would be left.
 */
export async function changeAccount(
  db: Database,
  { editor, change }: { editor: Editor; change: AccountChange },
): Promise<{ id: string } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const id =
      change.what === "invite"
        ? await make(tx, editor, change)
        : change.what === "role"
          ? await give(tx, editor, change)
          : await end(tx, editor, change);
    if (id instanceof Refused) return id;
    const wrong = (await refuseNoCoordinator(tx)) ?? (await renewStaff(tx, editor, [id]));
    if (wrong !== undefined) return wrong;
    await notify(tx, "house", "board", "people");
    return { id };
  });
}

async function make(
  tx: Queries,
  editor: Editor,
  { name, email, ...given }: Extract<AccountChange, { what: "invite" }>,
): Promise<string | Refused> {
  const made = await storeAccount(tx, name, email, given.role, given.siteId, given.lastDay);
  if (made === undefined)
    return refused(409, "account/there", t("staff.thereIsAnAccountFor", { email }), "email");
  await storeSources(tx, made.id, given);
  await record(tx, {
    actorId: editor.id,
    actor: editor.name,
    action: "invite",
    sentence: () =>
      t("staff.invitedAs", {
        name: editor.name,
        colleague: name,
        email,
        role: given.role,
        lastDay: day(given.lastDay),
      }),
    after: given,
  });
  return made.id;
}

async function give(
  tx: Queries,
  editor: Editor,
  { id, role, siteId, sources, lastDay }: Extract<AccountChange, { what: "role" }>,
): Promise<string | Refused> {
  const before = await findRights(tx, id);
  if (before === undefined) return noSuch("account");
  await storeRights(tx, role, siteId, lastDay, id);
  await storeSources(tx, id, { role, sources });
  await record(tx, {
    actorId: editor.id,
    actor: editor.name,
    action: "change account",
    sentence: () =>
      t("staff.made", {
        name: editor.name,
        colleague: before.name,
        role,
        lastDay: day(lastDay),
      }),
    before,
    after: { role, siteId, sources, lastDay },
  });
  return id;
}

async function end(
  tx: Queries,
  editor: Editor,
  { id, ended }: Extract<AccountChange, { what: "end" }>,
): Promise<string | Refused> {
  const row = await setEnded(tx, ended, id);
  if (row === undefined) return noSuch("account");
  if (ended) await removeSessions(tx, id);
  await record(tx, {
    actorId: editor.id,
    actor: editor.name,
    action: ended ? "end account" : "renew account",
    sentence: () =>
      ended
        ? t("staff.endedTheAccountOf", { name: editor.name, colleague: row.name })
        : t("staff.reopenedTheAccountOf", { name: editor.name, colleague: row.name }),
  });
  return id;
}

async function storeSources(
  tx: Queries,
  id: string,
  { role, sources }: Pick<Given, "role" | "sources">,
): Promise<void> {
  await removeHelperSources(tx, id);
  const there = role === "helper" && sources.length > 0 ? await findSources(tx, sources) : [];
  if (there.length > 0) await storeHelperSources(tx, there, id);
}

/** Somebody must be able to do everything, for good: a coordinator without a last day, who has chosen a password. */
async function refuseNoCoordinator(tx: Queries): Promise<Refused | undefined> {
  const left = await findOtherCoordinator(tx);
  if (left === undefined)
    return refused(409, "account/last-coordinator", t("staff.noCoordinatorWouldBeLeft"));
}

/** Takes accounts into the staff that belong to it, and out of it that do not, or no longer. */
export async function renewStaff(
  tx: Queries,
  editor: Editor,
  ids: readonly string[],
): Promise<Refused | undefined> {
  const rows = await listStaffRows(tx, ids);
  const isStaff = ({ role, inForce }: (typeof rows)[number]): boolean =>
    inForce && role !== "helper";
  return changeStaff(
    tx,
    editor,
    rows
      .filter(isStaff)
      .map(({ id, name, email, site: at }) => ({ id: staffId(id), name, email, site: at ?? "" })),
    rows.filter((row) => !isStaff(row)).map(({ id }) => staffId(id)),
  );
}

/** Takes those out of the staff whose account's last day is over. Done once a day, and harmless when done again. */
export async function endStaff(db: Database): Promise<number | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const over = await listEndedStaff(tx);
    if (over.length === 0) return 0;
    const wrong = await renewStaff(
      tx,
      { id: "", name: "Amigo", role: "coordinator", siteId: null },
      over.map(({ id }) => id),
    );
    return wrong ?? over.length;
  });
}
