import type { deleteMailKey, postMailKey, putMailKey } from "@amigo/contract/mail";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { inTransaction } from "../db/inTransaction";
import { notify } from "../events/events";
import { record } from "../events/record";
import { orRefuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import {
  addMailKey,
  lockMailKeys,
  removeMailKey,
  setMailKeyState,
  type MailKeyRow,
} from "../mail/mailKeyQueries";
import { FIRST_SELECTOR, type Algorithm } from "../mail/mailKeys";
import { keepUntil, showKeys } from "../mail/showKeys";
import { Refused } from "../refused";
import { t } from "../texts/t";

/** How many keys there may be: one or two that sign, those that wait, those whose records must stay. */
const MOST_KEYS = 8;

/** Makes a key that can sign mail once the DNS has its record. */
export async function makeMailKey(
  { db, mailKeys }: Context,
  { body: { algorithm }, caller }: Request<typeof postMailKey>,
): Promise<Answer<typeof postMailKey>> {
  const selector = await inTransaction(db, async (tx) => {
    const keys = await lockMailKeys(tx);
    if (keys.length >= MOST_KEYS) throw new Refusal(409, "too-many-keys", t("mail.tooManyKeys"));
    const free = freeSelector(algorithm, keys);
    await addMailKey(tx, await mailKeys.make(free, algorithm));
    await record(tx, {
      ...{ actorId: caller.id, actor: caller.name, action: "mail keys" },
      sentence: () => t("mail.madeAKeyForSigning", { name: caller.name, selector: free }),
    });
    await notify(tx, "house");
    return free;
  });
  return { selector };
}

/** Lets a key sign from now on, in place of the one of its algorithm that did; or ends signing with an Ed25519 key. */
export async function changeMailKey(
  context: Context,
  { params: { selector }, body: { state }, caller }: Request<typeof putMailKey>,
): Promise<Answer<typeof putMailKey>> {
  if (state === "signing" && !(await isPublished(context, selector)))
    throw new Refusal(409, "key-not-published", t("mail.theDnsDoesNotHave", { selector }));
  await inTransaction(context.db, async (tx) => {
    const keys = await lockMailKeys(tx);
    const key = orRefuse(findKey(keys, selector));
    if (key.state === state) return;
    if (state === "retired" && key.algorithm === "rsa-sha256")
      throw new Refusal(409, "key-needed", t("mail.oneKeyMustSign"));
    if (state === "retired" && key.state === "waiting")
      throw new Refusal(409, "key-unused", t("mail.thisKeyHasNotSigned"));
    for (const other of keys)
      if (other.state === "signing" && other.algorithm === key.algorithm)
        await setMailKeyState(tx, other.selector, "retired");
    await setMailKeyState(tx, selector, state);
    await record(tx, {
      ...{ actorId: caller.id, actor: caller.name, action: "mail keys" },
      sentence: () =>
        state === "signing"
          ? t("mail.signsMailWithTheKey", { name: caller.name, selector })
          : t("mail.endedSigningWithTheKey", { name: caller.name, selector }),
    });
    await notify(tx, "house");
  });
  return { done: true };
}

/** Removes a key that doesn't sign and that no mail on its way needs. */
export async function dropMailKey(
  { db }: Context,
  { params: { selector }, caller }: Request<typeof deleteMailKey>,
): Promise<Answer<typeof deleteMailKey>> {
  await inTransaction(db, async (tx) => {
    const key = orRefuse(findKey(await lockMailKeys(tx), selector));
    if (key.state === "signing") throw new Refusal(409, "key-signs", t("mail.thisKeySigns"));
    const until = keepUntil(key);
    if (until !== null && until > new Date())
      throw new Refusal(409, "key-needed", t("mail.mailSignedWithThisKey"));
    await removeMailKey(tx, selector);
    await record(tx, {
      ...{ actorId: caller.id, actor: caller.name, action: "mail keys" },
      sentence: () => t("mail.removedTheKey", { name: caller.name, selector }),
    });
    await notify(tx, "house");
  });
  return { done: true };
}

/** Whether the DNS has the record of a key, if there is such a key: mail that it signs would else count as forged. */
async function isPublished(context: Context, selector: string): Promise<boolean> {
  const house = await loadHouse(context.db);
  const { keys } = await showKeys(context, house?.listDomain ?? "");
  const key = keys.find((one) => one.selector === selector);
  return key === undefined || key.published === "there";
}

function findKey(keys: readonly MailKeyRow[], selector: string): MailKeyRow | Refused {
  return (
    keys.find((one) => one.selector === selector) ??
    new Refused(404, "no-such-key", t("mail.thereIsNoKey", { selector }))
  );
}

/** A name that no key has: `amigo2`, `amigo3` …, for Ed25519 `amigo-ed`, `amigo-ed2` … */
function freeSelector(algorithm: Algorithm, keys: readonly { selector: string }[]): string {
  const stem = algorithm === "rsa-sha256" ? FIRST_SELECTOR : `${FIRST_SELECTOR}-ed`;
  for (let number = 1; ; number++) {
    const name = number === 1 ? stem : `${stem}${number}`;
    if (!keys.some(({ selector }) => selector === name)) return name;
  }
}
