import { say } from "@amigo/language/say";
import { oneHeaderLine } from "@amigo/core/mail/headerText";
import { shelfReminder } from "@amigo/core/mail/shelfReminder";
import type { postShelfReminder } from "@amigo/contract/shelf";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { notFound, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { queueAlike } from "../posting/acceptPost";
import { makePlainToken } from "../callers/tokens";
import { languagesOf } from "../texts/familyLanguage";
import { inLanguage } from "../texts/inLanguage";
import { composeAlike, type NotesAlike } from "../posting/composeAlike";
import { t } from "../texts/t";
import { asAuthor } from "./author";
import { noteShelf } from "./putThings";
import { listPlaces } from "./placeQueries";
import { findThing, listMailed } from "./queries";
import { listMissing } from "./showShelf";

/** How often one thing may be brought to mind, and within how many minutes. */
const REMINDERS = 2;
const A_DAY = 24 * 60;

/** Reminds those who may open a thing and haven't, each by a mail of their own with the link. */
export async function remindMembers(
  { db, settings }: Context,
  { params, caller }: Request<typeof postShelfReminder>,
): Promise<Answer<typeof postShelfReminder>> {
  const row = await findThing(db, params.id, caller);
  const house = await loadHouse(db);
  if (row === undefined || house === undefined) throw notFound("thing");
  const missing = await listMailed(db, await listMissing(db, row, caller));
  if (missing.length === 0) return { addresses: 0 };
  if (!(await isWithinTries(db, `remind of ${params.id}`, REMINDERS, A_DAY)))
    throw new Refusal(429, "shelf/reminded", t("shelf.wereReminded"));
  const { id, title } = row.thing;
  const [place] = (await listPlaces(db, [id], caller)).filter(({ isTheirs }) => isTheirs);
  // Nobody on a private list knows of it: it is its owner who shares.
  const list = place?.isPrivate === true ? caller.name : (place?.title ?? "");
  const note = shelfReminder({
    ...{ title, list, name: caller.name },
    url: `${settings.url}/member/shelf/${id}`,
  });
  const languageAt = await languagesOf(db, missing);
  const mails: NotesAlike[] = [];
  for (const language of new Set(missing.map(languageAt))) {
    // Nothing differs but the address.
    const mark = makePlainToken();
    const [subject, text] = inLanguage(language, () => [say(note.subject), say(note.text)]);
    mails.push(
      await composeAlike(
        {
          from: { name: `${house.name} lists`, address: `postmaster@${house.listDomain}` },
          subject: oneHeaderLine(subject),
          domain: house.listDomain,
          automatic: { inReplyTo: undefined },
          fields: { "Content-Language": language },
        },
        "REQUEST",
        { text, calendar: undefined, tokenMark: mark, addressMark: mark },
        missing
          .filter((address) => languageAt(address) === language)
          .map((address) => ({ address, token: "" })),
      ),
    );
  }
  await db.transaction(async (tx) => {
    await queueAlike(tx, mails);
    const sentence = () => t("shelf.reminded", { name: caller.name, title, count: missing.length });
    await noteShelf(tx, asAuthor(caller), place === undefined ? [] : [place.id], sentence);
  });
  return { addresses: missing.length };
}
