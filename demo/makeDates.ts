import { addDays } from "@amigo/core/calendar/when";
import { until, type Ask, type DemoHouse } from "./running";

/** The dates of the demo house, counted from today, with how its families answer. */
const DATES = [
  {
    title: "Lantern workshop",
    place: "Big Barn",
    text: "We build the lanterns for the parade. Old jam jars are welcome.",
    lists: ["Night Parade, guardians"],
    day: 6,
    from: "10:00",
    until: "12:30",
    answers: ["yes 2", "yes 3", "no", "yes 1", "maybe", "yes 2"],
  },
  {
    title: "Dress rehearsal",
    place: "Mill Loft",
    text: "Please come in costume. Doors open a quarter of an hour before.",
    lists: ["Trapeze Two, guardians", "Wire Walk, guardians"],
    day: 9,
    from: "17:30",
    until: "19:30",
    answers: ["yes 1", "yes 2", "maybe", "yes 4", "no", "yes 2", "yes 1", "no", "yes 3"],
  },
  {
    title: "Parents' evening",
    place: "Big Barn",
    text: "How the season has begun, and what the spring show will be.",
    lists: ["Juggling One, guardians"],
    day: 16,
    from: "19:00",
    until: "20:30",
    answers: ["yes 1", "yes 1"],
  },
] as const;

const WORDS = ["", "With grandparents", "", "We come straight from school."];

/** Invites lists of the demo house to dates, and lets some of the families answer by their links. */
export async function makeDates(
  house: DemoHouse,
  ask: Ask,
  listOf: (title: string) => Promise<string>,
): Promise<void> {
  const today = new Date().toISOString().slice(0, 10);
  for (const { title, place, text, lists, day, from, until: ends, answers } of DATES) {
    const on = addDays(today, day);
    const { id } = await ask<{ id: string }>("POST", "/api/dates", {
      title,
      place,
      text,
      when: { allDay: false, from: `${on}T${from}`, until: `${on}T${ends}` },
      lists: await Promise.all(lists.map(listOf)),
    });
    const guests = await until(async () => {
      const date = await ask<{ guests: { address: string }[] }>("GET", `/api/dates/${id}`);
      return date.guests.length > answers.length ? date.guests : undefined;
    });
    for (const [index, said] of answers.entries()) {
      const [answer = "", people = "1"] = said.split(" ");
      const link = await linkOf(house, guests[index * 2]?.address ?? "", title);
      if (link !== undefined)
        await fetch(link, {
          method: "POST",
          body: new URLSearchParams({ answer, people, word: WORDS[index % WORDS.length] ?? "" }),
        });
    }
  }
}

/** The link in a family's invitation, once it has arrived; undefined for a mailbox that takes no mail. */
async function linkOf(
  { url, mailtown }: DemoHouse,
  address: string,
  title: string,
): Promise<string | undefined> {
  const all = (await (await fetch(`${mailtown}/api/mailboxes`)).json()) as {
    address: string;
    behaviour: string;
  }[];
  if (all.find((box) => box.address === address)?.behaviour !== "takes") return undefined;
  return until(async () => {
    const letters = (await (
      await fetch(`${mailtown}/api/mailboxes/${encodeURIComponent(address)}`)
    ).json()) as { subject: string; text: string }[];
    const letter = letters.find(({ subject }) => subject.startsWith(`Invitation: ${title}`));
    const path = /\/date\/[a-z0-9]+/.exec(letter?.text ?? "")?.[0];
    return path === undefined ? undefined : `${url}${path}`;
  });
}
