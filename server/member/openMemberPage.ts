import { eq } from "drizzle-orm";
import {
  type postMemberLink,
  type postMemberEnter,
  type postMemberGo,
} from "@amigo/contract/member";
import type { postOwnMemberPage } from "@amigo/contract/staff";
import { makeToken, hashToken } from "../callers/tokens";
import type { Context } from "../context";
import { memberSession } from "../db/schema/members";
import { keepSecret, readSecret, forgetSecret } from "../http/cookies";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { describeFailure } from "../describeFailure";
import { makeLink } from "../posting/mailLink";
import { sendFamilyNote } from "../posting/sendNote";
import { lines, message, written } from "@amigo/language/message";
import type { FamilyLanguage } from "@amigo/language/families";
import { browserLanguage } from "../http/speakToFamilies";
import { keepLanguage, knownLanguage } from "../texts/familyLanguage";
import { t } from "../texts/t";
import { LINKS_PER_ADDRESS } from "./linkLimits";
import { personAt } from "./memberLists";
import { loadHouse } from "../db/houseQueries";
import { findAnyMembership, storeMemberSession, PAGE_HOURS } from "./queries";
import { takeLink } from "../posting/linkQueries";

/** How long a link to the page is good, and the page once it is open, in hours. */
const LINK_HOURS = 1;

const LINKS_PER_NETWORK = 30;

async function mailLink(
  context: Context,
  address: string,
  asked: FamilyLanguage | undefined,
): Promise<void> {
  const { db, settings } = context;
  await db.transaction(async (tx) => {
    const on = await findAnyMembership(tx, address);
    const person = on === undefined ? await personAt(tx, address) : undefined;
    if (on === undefined && person === undefined) return;
    const token = await makeLink(tx, { purpose: "member page", address, hours: LINK_HOURS });
    const house = await loadHouse(tx);
    const name = house?.name ?? "";
    await sendFamilyNote(
      tx,
      { name: "", address },
      () => ({
        subject: written(t("member.yourListsAt", { name })),
        text: lines(
          message("forms.hello"),
          "",
          t("member.openYourPageAtHere", { name }),
          `${settings.url}/member/${token}`,
          "",
          t("member.theLinkWorksOnceFor"),
        ),
      }),
      { what: "link", language: (await knownLanguage(tx, address)) ?? asked },
    );
  });
}

/** Mails a link to the member page; answered alike whether the address is on any list. */
export async function sendMemberLink(
  context: Context,
  { body, http }: Request<typeof postMemberLink>,
): Promise<Answer<typeof postMemberLink>> {
  const { db, settings } = context;
  if (
    !(await isWithinTries(
      db,
      `links from ${networkAddress(http, settings)}`,
      LINKS_PER_NETWORK,
      60,
    ))
  )
    throw new Refusal(429, "link/too-many", t("shared.tooManyLinksWereAsked"));
  // Whether the address is on any list is told to its owner alone.
  void isWithinTries(db, `page link to ${body.address}`, LINKS_PER_ADDRESS, 60)
    .then((within) => (within ? mailLink(context, body.address, browserLanguage(http)) : undefined))
    .catch((failure: unknown) =>
      context.log.warn({ failure: describeFailure(failure) }, "a link could not be mailed"),
    );
  return { done: true as const };
}

/** Opens the member page by a mailed link, once. */
export async function enterMemberPage(
  { db, settings }: Context,
  { body, http }: Request<typeof postMemberEnter>,
): Promise<Answer<typeof postMemberEnter>> {
  const link = await takeLink(db, body.token, "member page");
  if (link === undefined)
    throw new Refusal(422, "link/ran-out", t("shared.thisLinkWasUsedAlready"), "token");
  const token = makeToken();
  await storeMemberSession(db, token, link.address);
  const language = browserLanguage(http);
  if (language !== undefined) await keepLanguage(db, link.address, language, "browser");
  keepSecret(http, settings, "member", token, PAGE_HOURS * 3600);
  return { done: true as const };
}

/** Opens the member page of an account's own address: whoever is signed in needs no mailed link to it. */
export async function enterOwnMemberPage(
  { db, settings }: Context,
  { caller, http }: Request<typeof postOwnMemberPage>,
): Promise<Answer<typeof postOwnMemberPage>> {
  const token = makeToken();
  await storeMemberSession(db, token, caller.email);
  keepSecret(http, settings, "member", token, PAGE_HOURS * 3600);
  return { done: true as const };
}

/** Closes the member page on this device. */
export async function leaveMemberPage(
  { db, settings }: Context,
  { http }: Request<typeof postMemberGo>,
): Promise<Answer<typeof postMemberGo>> {
  await db
    .delete(memberSession)
    .where(eq(memberSession.tokenHash, hashToken(readSecret(http, settings, "member") ?? "")));
  forgetSecret(http, settings, "member");
  return { done: true as const };
}
