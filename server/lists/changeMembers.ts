import { refused, type Refused } from "../refused";
import type { postKept, putMemberHowOften, deleteKept, postMembers } from "@amigo/contract/members";
import type { postAgree } from "@amigo/contract/lists";
import { readAddress } from "@amigo/core/address/readAddress";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { orRefuse, refuse, notFound, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadList, type LoadedList } from "../membership/loadList";
import { setHowOften } from "../membership/setHowOften";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import { findChangeable } from "./queries";
import { findMembership } from "../membership/queries";

/** Puts an address on a list or off it for always, whatever the sheets say. */
export async function setAlwaysOrNever(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postKept>,
): Promise<Answer<typeof postKept>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  const address = orRefuse(clean(body.address));
  refuse(await mayPutOn(db, found, caller, body.side === "on"));
  const { member } = orRefuse(
    await desk.run("keepAddress", {
      actor: { id: caller.id, name: caller.name },
      keep: {
        listId: found.id,
        address,
        side: body.side,
        reason: body.reason,
        lastDay: body.lastDay,
      },
    }),
  );
  return { address, member };
}

/** Settles how often a member gets the mail of a list. */
export async function changeHowOften(
  { db }: Context,
  { params, body, caller }: Request<typeof putMemberHowOften>,
): Promise<Answer<typeof putMemberHowOften>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  const member = await findMembership(db, found.id, body.address);
  if (member === undefined) throw notFound("member");
  await setHowOften(db, caller, found.id, member.address, body.howOften);
  return { done: true as const };
}

/** Ends that an address is always or never on a list: the sheets decide again. */
export async function endManualChange(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof deleteKept>,
): Promise<Answer<typeof deleteKept>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  refuse(await mayPutOn(db, found, caller, false));
  return orRefuse(
    await desk.run("letGo", {
      actor: { id: caller.id, name: caller.name },
      listId: found.id,
      address: body.address,
    }),
  );
}

/** Puts addresses on a list by hand: quietly, with its welcome, or by asking first. */
export async function addPeople(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postMembers>,
): Promise<Answer<typeof postMembers>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  const addresses = body.addresses.map((address) => orRefuse(clean(address)));
  refuse(await mayPutOn(db, found, caller, true));
  return orRefuse(
    await desk.run("addMembers", {
      actor: { id: caller.id, name: caller.name },
      wanted: {
        listId: found.id,
        addresses,
        how: body.how,
        reason: body.reason,
        lastDay: body.lastDay,
      },
    }),
  );
}

/** Stores a lead's decision on addresses that wait: they come onto the list, or not. */
export async function confirmMembers(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postAgree>,
): Promise<Answer<typeof postAgree>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  const changeable = await findChangeable(db, found.id, caller);
  if (changeable === undefined) throw new Refusal(403, "agree/lead", t("lists.aLeadOfThisList"));
  return orRefuse(
    await desk.run("agree", {
      actor: { id: caller.id, name: caller.name },
      listId: found.id,
      ids: body.ids,
      yes: body.agree,
    }),
  );
}

/** Refuses where the asker does not lead the list, or its rules let members come by the roster only. */
async function mayPutOn(
  db: Queries,
  found: LoadedList,
  caller: Caller,
  isOn: boolean,
): Promise<Refused | undefined> {
  const changeable = await findChangeable(db, found.id, caller);
  if (changeable === undefined) return refused(403, "keep/lead", t("lists.leadsOfThisListAnd"));
  if (isOn && found.rules.joining === "roster" && caller.role === "staff")
    return refused(403, "keep/roster", t("lists.peopleComeOntoThisList"));
}

function clean(written: string): string | Refused {
  const read = readAddress(written, new Map());
  if (read.answer !== "clean")
    return refused(422, "keep/address", noAddress(written, read), "address");
  return read.address;
}
