import {
  heldNote,
  isItYoursNote,
  manyHeldNote,
  type HeldLinks,
  type HeldMail,
} from "@amigo/core/mail/heldNotes";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import type { house } from "../db/schema/house";
import { makeLink } from "./mailLink";
import { sendFamilyNote, sendNote } from "./sendNote";
import { countQuestions } from "./linkQueries";
import { listUntoldOfHeld, lockTelling, wasToldLately, type UntoldOfHeld } from "./heldQueries";

/** How long somebody has to say that a mail is theirs, in hours. */
const HOURS_TO_CONFIRM = 72;
/** The most questions an hour to one address, so that nobody is flooded by mail in their name. Other notes don't count. */
const QUESTIONS_AN_HOUR = 3;
/** How many held mails one note names; the page has all. */
const MOST_IN_A_NOTE = 30;

/**
 * Tells leads and helpers that a mail is held, and asks its claimed sender, where there is one to ask, whether it is theirs.
 * Whoever was told of another held mail within the hour is told later, of all that wait then.
 */
export async function tellHeld(
  tx: Queries,
  {
    postId,
    list,
    house: settings,
    from,
    subject,
    askSender,
    url,
  }: {
    postId: string;
    list: { id: string; title: string; name: string };
    house: typeof house.$inferSelect;
    from: { name: string; address: string };
    subject: string;
    askSender: boolean;
    url: string;
  },
): Promise<void> {
  const asked = await countQuestions(tx, from.address);
  if (askSender && (asked?.count ?? 0) < QUESTIONS_AN_HOUR) {
    const token = await makeLink(tx, {
      purpose: "own mail",
      address: from.address,
      about: postId,
      hours: HOURS_TO_CONFIRM,
    });
    const held = {
      subject,
      from: nameAndAddress(from.name, from.address),
      list: `${list.title} (${list.name}@${settings.listDomain})`,
      house: settings.name,
    };
    await sendFamilyNote(tx, from, () => isItYoursNote(held, `${url}/mine/${token}`));
  }
  await tellUntold(tx, settings, url, postId);
}

/** Tells everybody of the held mail that they have not been told of, one note an hour at most for each. Returns how many notes. */
export async function tellHeldLater({
  db,
  settings,
}: Pick<Context, "db" | "settings">): Promise<number> {
  const house = await loadHouse(db);
  return house === undefined
    ? 0
    : db.transaction((tx) => tellUntold(tx, house, settings.url, undefined));
}

/** Tells whoever decides on a held mail, or on any, of all that they were not told of. */
async function tellUntold(
  tx: Queries,
  settings: typeof house.$inferSelect,
  url: string,
  postId: string | undefined,
): Promise<number> {
  const concerned = await listUntoldOfHeld(tx, postId);
  let notes = 0;
  for (const { account, email, name } of distinctAccounts(concerned)) {
    await lockTelling(tx, email);
    if (await wasToldLately(tx, email)) continue;
    // Looked at once more: another may have told them while this one waited.
    const mails = (await listUntoldOfHeld(tx, undefined, account)).slice(0, MOST_IN_A_NOTE);
    if (mails.length === 0) continue;
    await sendNote(tx, { name, address: email }, await noteOf(tx, mails, settings, url));
    notes++;
  }
  return notes;
}

async function noteOf(
  tx: Queries,
  mails: readonly UntoldOfHeld[],
  settings: typeof house.$inferSelect,
  url: string,
) {
  const told: { held: HeldMail; links: HeldLinks }[] = [];
  for (const mail of mails) {
    const token = await makeLink(tx, {
      purpose: "held mail",
      address: mail.email,
      about: `${mail.post} ${mail.account}`,
      hours: settings.heldDays * 24,
    });
    told.push({
      held: {
        subject: mail.subject,
        from: nameAndAddress(mail.from_name, mail.from_address),
        list: `${mail.title} (${mail.list}@${settings.listDomain})`,
        house: settings.name,
      },
      links: {
        page: mails.length === 1 ? `${url}/mail/held?post=${mail.post}` : `${url}/mail/held`,
        decide: `${url}/held/${token}`,
        days: settings.heldDays,
      },
    });
  }
  const [only] = told;
  return told.length === 1 && only !== undefined
    ? heldNote(only.held, only.links)
    : manyHeldNote(told, settings.name);
}

/** Each account once, always in the same order, so that two who tell at once never wait for each other. */
function distinctAccounts(untold: readonly UntoldOfHeld[]): UntoldOfHeld[] {
  return [...new Map(untold.map((one) => [one.account, one])).values()].sort((one, other) =>
    one.email < other.email ? -1 : 1,
  );
}

function nameAndAddress(name: string, address: string): string {
  return name === "" ? address : `${name} (${address})`;
}
