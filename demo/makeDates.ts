import { addDays } from "@amigo/core/calendar/when";
import { until, type Ask, type DemoHouse } from "./running";

interface DemoDate {
  title: string;
  place: string;
  text: string;
  lists: readonly string[];
  /** How many days from today it is. */
  day: number;
  from: string;
  until: string;
  places?: number;
  isWeekly?: boolean;
  answers: readonly string[];
}

/** The dates of the demo house, counted from today, with how its families answer. */
const DATES: readonly DemoDate[] = [
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
  {
    title: "Family trampoline hour",
    place: "Big Barn",
    text: "Ten can jump at a time. Socks, please.",
    lists: ["Acro Pairs, guardians"],
    day: 4,
    from: "16:00",
    until: "17:00",
    places: 10,
    answers: ["yes 4", "yes 3", "yes 4", "yes 3", "no", "yes 2"],
  },
  {
    title: "Staff meeting",
    place: "Mill Loft",
    text: "",
    lists: ["Staff"],
    day: 3,
    from: "12:15",
    until: "13:00",
    isWeekly: true,
    answers: [],
  },
];

const WORDS = ["", "With grandparents", "", "We come straight from school."];

/** The terms and holidays of the demo house: those of its season, whenever somebody looks at it. */
function termsFrom(year: number) {
  return [
    { name: "Autumn term", kind: "term", firstDay: `${year}-09-01`, lastDay: `${year}-12-18` },
    {
      name: "Winter holidays",
      kind: "holidays",
      firstDay: `${year}-12-19`,
      lastDay: `${year + 1}-01-06`,
    },
    {
      name: "Spring term",
      kind: "term",
      firstDay: `${year + 1}-01-07`,
      lastDay: `${year + 1}-04-02`,
    },
    {
      name: "Spring holidays",
      kind: "holidays",
      firstDay: `${year + 1}-04-03`,
      lastDay: `${year + 1}-04-18`,
    },
    {
      name: "Summer term",
      kind: "term",
      firstDay: `${year + 1}-04-19`,
      lastDay: `${year + 1}-07-23`,
    },
  ];
}

/** Invites lists of the demo house to dates, and lets some of the families answer by their links. */
export async function makeDates(
  house: DemoHouse,
  ask: Ask,
  listOf: (title: string) => Promise<string>,
): Promise<void> {
  const today = new Date().toISOString().slice(0, 10);
  await ask("PUT", "/api/terms", { terms: termsFrom(2026) });
  for (const date of DATES) {
    const { title, place, text, lists, from, until: ends, answers } = date;
    const on = addDays(today, date.day);
    const { id } = await ask<{ id: string }>("POST", "/api/dates", {
      title,
      place,
      text,
      when: { allDay: false, from: `${on}T${from}`, until: `${on}T${ends}` },
      lists: await Promise.all(lists.map(listOf)),
      places: date.places ?? null,
      reminders: [1],
      ...(date.isWeekly === true
        ? { repeat: { every: "week", step: 1, days: [], until: addDays(on, 84) } }
        : {}),
    });
    const guests = await until(async () => {
      const made = await ask<{ guests: { address: string }[] }>("GET", `/api/dates/${id}`);
      return made.guests.length > answers.length ? made.guests : undefined;
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
