import { inOrder } from "@amigo/language/inOrder";
import Papa from "papaparse";
import { say } from "@amigo/language/say";
import { whenInWords } from "@amigo/core/calendar/whenInWords";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { record } from "../events/record";
import { orRefuse } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { needCaller } from "../http/route";
import { printTable } from "../pdf/printTable";
import { noSuch, type Refused } from "../refused";
import { t } from "../texts/t";
import type { DateRow } from "../calendar/dateQueries";
import { findDate, listListsOfDates } from "./dateQueries";
import { guestsSeen, type GuestSeen } from "./guestsSeen";

/** Sends the guests of a date whom somebody may know, with what they say, as CSV. */
export async function exportGuests(
  context: Context,
  http: FileRequest<"/api/dates/:id/guests.csv">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see dates");
  const { date, guests, titles } = orRefuse(await loadGuests(db, caller, http.req.param("id")));
  const text = Papa.unparse(
    [
      [
        t("lists.name"),
        t("shared.address"),
        t("lists.list"),
        t("dates.answer"),
        t("dates.howMany"),
        t("dates.note"),
        t("dates.answered"),
      ],
      ...guests.map((guest) =>
        [
          guest.name,
          guest.address,
          titlesOf(guest, titles).join(", "),
          answerWord(guest),
          guest.answer === "yes" ? String(guest.people) : "",
          noteOf(guest),
          guest.answeredAt?.toISOString() ?? "",
        ].map(harmlessCell),
      ),
    ],
    { newline: "\r\n" },
  );
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "export list",
    sentence: () => t("dates.exportedGuests", { name: caller.name, title: date.title }),
  });
  return http.body(`\uFEFF${text}\r\n`, 200, {
    "Content-Type": "text/csv; charset=utf-8",
    "Content-Disposition": 'attachment; filename="answers.csv"',
    "Cache-Control": "no-store",
  });
}

/** Sends the same to print: those who come first, each list of the date by itself, with a box to tick at the door. */
export function printGuests(
  context: Context,
  http: FileRequest<"/api/dates/:id/guests.pdf">,
): Promise<Response> {
  return printTable(context, http, "see dates", async (caller) => {
    const found = orRefuse(await loadGuests(context.db, caller, http.req.param("id")));
    const { date, guests, titles } = found;
    const come = guests.filter(({ answer, isWaiting }) => answer === "yes" && !isWaiting);
    return {
      title: date.title,
      line: [
        say(whenInWords(date.when)),
        date.place,
        t("dates.peopleCome", { people: come.reduce((sum, { people }) => sum + people, 0) }),
      ]
        .filter((part) => part !== "")
        .join(", "),
      columns: [
        { title: t("dates.here"), share: 6 },
        { title: t("lists.name"), share: 34 },
        { title: t("dates.answer"), share: 20 },
        { title: t("dates.howMany"), share: 12 },
        { title: t("dates.note"), share: 28 },
      ],
      rows: [...titles].flatMap(([id, title]) => {
        const onIt = guests.filter(({ lists }) => lists.includes(id)).sort(byAnswer);
        return onIt.length === 0 ? [] : [[[title]], ...onIt.map(printedRow)];
      }),
      empty: t("dates.nobodyIsInvited"),
    };
  });
}

async function loadGuests(
  db: Queries,
  caller: Caller,
  id: string,
): Promise<{ date: DateRow; guests: GuestSeen[]; titles: Map<string, string> } | Refused> {
  const date = /^[0-9a-f-]{36}$/i.test(id) ? await findDate(db, id, caller) : undefined;
  if (date === undefined) return noSuch("date");
  const lists = (await listListsOfDates(db, [date.id], caller)).filter(({ isSeen }) => isSeen);
  return {
    date,
    guests: await guestsSeen(db, caller, date.id),
    titles: new Map(lists.map((list) => [list.id, list.title])),
  };
}

function titlesOf({ lists }: GuestSeen, titles: ReadonlyMap<string, string>): string[] {
  return lists.flatMap((id) => titles.get(id) ?? []);
}

const ANSWERS = ["yes", "maybe", null, "no"] as const;
const WORDS = { yes: "dates.comes", maybe: "dates.answerMaybe", no: "dates.cantCome" } as const;

/** Those who come first, then those who may; by name among themselves. */
function byAnswer(a: GuestSeen, b: GuestSeen): number {
  return (
    Number(a.isWaiting) - Number(b.isWaiting) ||
    ANSWERS.indexOf(a.answer) - ANSWERS.indexOf(b.answer) ||
    inOrder(a.name, b.name)
  );
}

function answerWord({ answer, isWaiting }: GuestSeen): string {
  if (answer === null) return t("dates.notAnswered");
  return isWaiting ? t("dates.waits") : t(WORDS[answer]);
}

/** A guest's note, with the other time that they propose. */
function noteOf({ word, proposes }: GuestSeen): string {
  return [word, proposes === null ? "" : t("dates.proposes", { when: say(whenInWords(proposes)) })]
    .filter((part) => part !== "")
    .join("; ");
}

function printedRow(guest: GuestSeen): string[][] {
  return [
    ["☐"],
    [guest.name === "" ? guest.address : guest.name],
    [answerWord(guest)],
    [guest.answer === "yes" ? String(guest.people) : ""],
    [noteOf(guest)],
  ];
}
