import { html } from "hono/html";
import { say } from "@amigo/language/say";
import type { Answer } from "@amigo/core/calendar/calendarDate";
import { GUEST_REMINDERS } from "@amigo/core/calendar/remindersDue";
import { whenInWords } from "@amigo/core/calendar/whenInWords";
import { answerInvitation, MOST_PEOPLE, whyOver } from "../calendar/answerInvitation";
import { findInvited, storeRemind, type Invited } from "../calendar/guestQueries";
import type { Context } from "../context";
import { inTransaction } from "../db/inTransaction";
import type { FileRequest } from "../http/handler";
import { linkPage } from "../http/linkPage";
import { readForm } from "../http/readForm";
import { Refused } from "../refused";
import { listDateFiles, type DateFileRow } from "./fileQueries";
import { t } from "../texts/t";
import { speakTo } from "../texts/familyLanguage";

const ANSWERS = ["yes", "maybe", "no"] as const satisfies readonly Answer[];
const WORDS = {
  yes: "dates.answerYes",
  maybe: "dates.answerMaybe",
  no: "dates.answerNo",
} as const;

/** Shows a guest the date behind their link, with what they said. Looking at it answers nothing. */
export async function showAnswerPage(
  { db }: Context,
  http: FileRequest<"/date/:token">,
): Promise<Response> {
  const invited = await findInvited(db, http.req.param("token"));
  if (invited === undefined) return http.html(gone(), 404);
  await speakTo(db, invited.guest.address);
  const over = whyOver(invited, new Date());
  if (over !== undefined)
    return http.html(linkPage(invited.date.title, html`<p>${say(over.detail)}</p>`), 404);
  const files = await listDateFiles(db, invited.date.id);
  return http.html(page(invited, files, answerOf(http.req.query("answer"))));
}

/** Takes a guest's answer from their page, and when they want to be reminded. */
export async function takeAnswerOfPage(
  { db }: Context,
  http: FileRequest<"/date/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const known = await findInvited(db, token);
  if (known === undefined) return http.html(gone(), 404);
  await speakTo(db, known.guest.address);
  const { title } = known.date;
  const form = await readForm(http);
  const answer = answerOf(form.answer);
  if (answer === undefined)
    return http.html(linkPage(title, html`<p>${t("dates.chooseAnAnswer")}</p>`), 400);
  const taken = await inTransaction(db, async (tx) => {
    const answered = await answerInvitation(
      tx,
      token,
      {
        answer,
        people: Math.round(Number(form.people)) || 1,
        word: (form.word ?? "").trim(),
      },
      true,
    );
    if (answered instanceof Refused || answered === undefined) return answered;
    await storeRemind(tx, answered.guest.id, remindIn(form.remind));
    return answered;
  });
  if (taken === undefined) return http.html(gone(), 404);
  if (taken instanceof Refused)
    return http.html(linkPage(title, html`<p>${say(taken.detail)}</p>`), 409);
  return http.html(
    linkPage(
      taken.guest.isWaiting ? t("dates.youAreInLine") : t("shared.thankYou"),
      html`<p>
          ${
            taken.guest.isWaiting
              ? t("dates.youWait", { title })
              : t("dates.yourAnswerIs", { answer: t(WORDS[answer]), title })
          }
        </p>
        <p><a href="">${t("dates.changeYourAnswer")}</a></p>`,
    ),
  );
}

/** The reminder that a guest has chosen: null for what the date has. */
function remindIn(text: string | undefined): number[] | null {
  if (text === "never") return [];
  const days = GUEST_REMINDERS.find((each) => String(each) === text);
  return days === undefined ? null : [days];
}

function answerOf(text: string | undefined): Answer | undefined {
  return ANSWERS.find((answer) => answer === text);
}

function gone() {
  return linkPage(t("dates.noSuchInvitation"), html`<p>${t("dates.askWhoInvitedYou")}</p>`);
}

function page(
  { date, guest, list }: Invited,
  files: readonly DateFileRow[],
  chosen: Answer | undefined,
) {
  const selected = chosen ?? guest.answer ?? "";
  return linkPage(
    date.title,
    html`<p>
        ${say(whenInWords(date.when))}${date.place === "" ? "" : html`<br />${date.place}`}
        ${date.link === "" ? "" : html`<br /><a href="${date.link}" rel="noreferrer">${date.link}</a>`}
      </p>
      ${date.text === "" ? "" : html`<pre>${date.text}</pre>`}
      ${files.map(
        ({ id, name }) => html`<p><a href="/date/${guest.token}/files/${id}">${name}</a></p> `,
      )}
      ${guest.isWaiting ? html`<p>${t("dates.youWait", { title: date.title })}</p>` : ""}
      <p>${t("dates.invitedBecause", { address: guest.address, list })}</p>
      <form method="post">
        <fieldset>
          <legend>${t("dates.doYouCome")}</legend>
          ${ANSWERS.map(
            (answer) =>
              html`<label
                ><input
                  type="radio"
                  name="answer"
                  value="${answer}"
                  required
                  ${answer === selected ? "checked" : ""}
                />
                ${t(WORDS[answer])}</label
              > `,
          )}
        </fieldset>
        <label
          >${t("dates.howManyCome")}
          <input type="number" name="people" min="1" max="${MOST_PEOPLE}" value="${guest.people}"
        /></label>
        <label
          >${t("dates.aWord")} <input name="word" maxlength="500" value="${guest.word}"
        /></label>
        <label
          >${t("dates.remindMe")}
          <select name="remind">
            ${remindChoices(date.reminders, guest.remind).map(
              ({ value, name, isChosen }) =>
                html`<option value="${value}" ${isChosen ? "selected" : ""}>${name}</option>`,
            )}
          </select></label
        >
        <button>${t("dates.sendAnswer")}</button>
      </form>`,
  );
}

function remindChoices(
  ofDate: readonly number[],
  chosen: readonly number[] | null,
): { value: string; name: string; isChosen: boolean }[] {
  return [
    {
      value: "date",
      name:
        ofDate.length === 0
          ? t("dates.remindNotPlanned")
          : t("dates.remindAsPlanned", { days: ofDate.map((days) => daysBefore(days)).join(", ") }),
      isChosen: chosen === null,
    },
    // Where nobody is reminded anyway there is nothing to switch off.
    ...(ofDate.length === 0
      ? []
      : [{ value: "never", name: t("dates.remindNever"), isChosen: chosen?.length === 0 }]),
    ...GUEST_REMINDERS.map((days) => ({
      value: String(days),
      name: daysBefore(days),
      isChosen: chosen?.[0] === days,
    })),
  ];
}

function daysBefore(days: number): string {
  return t("dates.daysBefore", { days });
}
