import type { postMailLink, postSignInByLink, postLookAtLink } from "@amigo/contract/staff";
import { passFirstStep } from "../accounts/beginSession";
import type { Context } from "../context";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { describeFailure } from "../describeFailure";
import { makeLink } from "../posting/mailLink";
import { sendNote } from "../posting/sendNote";
import { t } from "../texts/t";
import { ranOut } from "./ranOut";
import { findForLink, findInvited } from "./queries";
import { findInForce } from "../accounts/queries";
import { linkBehind, takeLink } from "../posting/linkQueries";

const SIGN_IN_HOURS = 0.5;

const PASSWORD_HOURS = 2;

/** How many links may be mailed to one address in an hour, and asked for from one network address. */
const LINKS_PER_ADDRESS = 4;

const LINKS_PER_NETWORK = 30;

async function mailLink(
  context: Context,
  email: string,
  what: "sign-in" | "new password",
): Promise<void> {
  const { db, settings } = context;
  await db.transaction(async (tx) => {
    const found = await findForLink(tx, email);
    if (found === undefined) return;
    const purpose = what === "sign-in" ? ("sign-in" as const) : ("new password" as const);
    const token = await makeLink(tx, {
      purpose,
      address: email,
      about: found.id,
      hours: what === "sign-in" ? SIGN_IN_HOURS : PASSWORD_HOURS,
    });
    const text = (): string[] =>
      what === "sign-in"
        ? [
            t("shared.hello", { name: found.name }),
            "",
            t("staff.signInToAmigoHere"),
            `${settings.url}/enter/${token}`,
            "",
            t("staff.theLinkWorksOnceFor2"),
          ]
        : [
            t("shared.hello", { name: found.name }),
            "",
            t("staff.chooseANewPasswordHere"),
            `${settings.url}/password/${token}`,
            "",
            t("staff.theLinkWorksOnceFor"),
          ];
    await sendNote(
      tx,
      { name: found.name, address: email },
      () => ({
        subject:
          what === "sign-in"
            ? t("staff.signInToTheLists", { house: found.house })
            : t("staff.aNewPasswordForThe", { house: found.house }),
        text: text().join("\r\n"),
      }),
      { what: "link" },
    );
  });
}

/** Mails a link by which an account signs in, or chooses a new password; the answer is the same whether there is one. */
export async function sendSignInLink(
  context: Context,
  { body, http }: Request<typeof postMailLink>,
): Promise<Answer<typeof postMailLink>> {
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
  // What an address gets is told to its owner alone; to whoever asks, everything looks alike, and takes as long.
  void isWithinTries(db, `link to ${body.email}`, LINKS_PER_ADDRESS, 60)
    .then((within) => (within ? mailLink(context, body.email, body.what) : undefined))
    .catch((failure: unknown) =>
      context.log.warn({ failure: describeFailure(failure) }, "a link could not be mailed"),
    );
  return { done: true as const };
}

/** Signs in by a mailed link, once. */
export async function signInByLink(
  context: Context,
  { body, http }: Request<typeof postSignInByLink>,
): Promise<Answer<typeof postSignInByLink>> {
  const { db } = context;
  const link = await takeLink(db, body.token, "sign-in");
  const [found] = link === undefined ? [] : await findInForce(db, link.about);
  if (found === undefined) refuse(ranOut());
  return { done: await passFirstStep(context, http, found, () => t("staff.signedInByAMailed")) };
}

/** Returns whose invitation or new password a link is for, without using it up. */
export async function lookAtLink(
  { db }: Context,
  { body }: Request<typeof postLookAtLink>,
): Promise<Answer<typeof postLookAtLink>> {
  for (const what of ["invitation", "new password"] as const) {
    const link = await linkBehind(db, body.token, what);
    const [found] = link === undefined ? [] : await findInvited(db, link.about);
    if (found !== undefined) return { ...found, what };
  }
  refuse(ranOut());
}
