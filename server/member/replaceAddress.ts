import type { postNewAddress, postConfirmAddress } from "@amigo/contract/member";
import { faultForOutsiders } from "@amigo/core/address/faultSentence";
import { isInside } from "@amigo/core/address/isInside";
import { readAddress } from "@amigo/core/address/readAddress";
import type { Context } from "../context";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { makeLink } from "../posting/mailLink";
import { sendFamilyNote } from "../posting/sendNote";
import { lines, message, written } from "@amigo/language/message";
import { languageOf } from "../texts/familyLanguage";
import { t } from "../texts/t";
import { LINKS_PER_ADDRESS } from "./linkLimits";
import { personAt } from "./memberLists";
import { loadHouse } from "../db/houseQueries";
import { linkBehind, takeLink } from "../posting/linkQueries";
import { insideDomains } from "../db/insideDomains";

const CONFIRM_HOURS = 72;

/** Mails a link to a new address, which counts once the link was opened. */
export async function askForNewAddress(
  { db, settings }: Context,
  { body, member }: Request<typeof postNewAddress>,
): Promise<Answer<typeof postNewAddress>> {
  const read = readAddress(body.address, new Map());
  if (read.answer !== "clean")
    throw new Refusal(
      422,
      "member/address",
      read.answer === "probably"
        ? t("member.didYouMean", { address: read.address })
        : t("member.thisIsNoAddress", { read: faultForOutsiders(read) }),
      "address",
    );
  const person = await personAt(db, member);
  if (person === undefined)
    throw new Refusal(422, "member/unknown", t("member.nobodyInTheRosterHas"), "address");
  if (isInside(read.address, await insideDomains(db)))
    throw new Refusal(422, "member/inside", t("member.addressesInsideYourDomainsAre"), "address");
  if (!(await isWithinTries(db, `new address of ${member}`, LINKS_PER_ADDRESS, 60)))
    throw new Refusal(429, "link/too-many", t("member.tooManyAddressesWereNamed"));
  await db.transaction(async (tx) => {
    const token = await makeLink(tx, {
      purpose: "new address",
      address: read.address,
      about: member,
      hours: CONFIRM_HOURS,
    });
    const foundHouse = await loadHouse(tx);
    await sendFamilyNote(
      tx,
      { name: person.name, address: read.address },
      () => ({
        subject: written(t("member.isThisYourAddress")),
        text: lines(
          message("forms.hello"),
          "",
          t("member.wouldLikeToGetThe", { member, name: foundHouse?.name ?? "" }),
          `${settings.url}/member/address/${token}`,
          "",
          t("member.theLinkWorksOnceFor2"),
        ),
      }),
      { language: await languageOf(tx, member) },
    );
  });
  return { done: true as const };
}

/** Confirms a new address by a mailed link. */
export async function confirmNewAddress(
  { db, desk }: Context,
  { body }: Request<typeof postConfirmAddress>,
): Promise<Answer<typeof postConfirmAddress>> {
  const looked = await linkBehind(db, body.token, "new address");
  const person = looked === undefined ? undefined : await personAt(db, looked.about);
  if (
    looked === undefined ||
    person === undefined ||
    (await takeLink(db, body.token, "new address")) === undefined
  )
    throw new Refusal(422, "link/ran-out", t("member.thisLinkWasUsedAlready"), "token");
  const addresses = [
    ...new Set([...person.addresses.filter((address) => address !== looked.about), looked.address]),
  ];
  refuse(
    await desk.run("settleByHand", {
      actor: { id: null, name: `${person.name} (${looked.about})` },
      person: person.id,
      addresses,
    }),
  );
  return { address: looked.address };
}
