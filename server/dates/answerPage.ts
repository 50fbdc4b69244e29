import { html } from "hono/html";
import { say } from "@amigo/language/say";
import type { Answer } from "@amigo/core/calendar/calendarDate";
import { whenInWords } from "@amigo/core/calendar/whenInWords";
import { answerInvitation, MOST_PEOPLE, whyOver } from "../calendar/answerInvitation";
import { findInvited, type Invited } from "../calendar/guestQueries";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { linkPage } from "../http/linkPage";
import { readForm } from "../http/readForm";
import { t } from "../texts/t";

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
  const over = whyOver(invited, new Date());
  if (over !== undefined)
    return http.html(linkPage(invited.date.title, html`<p>${say(over.detail)}</p>`), 404);
  return http.html(page(invited, answerOf(http.req.query("answer"))));
}

/** Takes a guest's answer from their page. */
export async function takeAnswerOfPage(
  { db }: Context,
  http: FileRequest<"/date/:token">,
): Promise<Response> {
  const invited = await findInvited(db, http.req.param("token"));
  if (invited === undefined) return http.html(gone(), 404);
  const form = await readForm(http);
  const answer = answerOf(form.answer);
  if (answer === undefined)
    return http.html(linkPage(invited.date.title, html`<p>${t("dates.chooseAnAnswer")}</p>`), 400);
  const over = await answerInvitation(db, invited, {
    answer,
    people: Math.round(Number(form.people)) || 1,
    word: (form.word ?? "").trim(),
  });
  if (over !== undefined)
    return http.html(linkPage(invited.date.title, html`<p>${say(over.detail)}</p>`), 409);
  return http.html(
    linkPage(
      t("shared.thankYou"),
      html`<p>
          ${t("dates.yourAnswerIs", { answer: t(WORDS[answer]), title: invited.date.title })}
        </p>
        <p><a href="">${t("dates.changeYourAnswer")}</a></p>`,
    ),
  );
}

function answerOf(text: string | undefined): Answer | undefined {
  return ANSWERS.find((answer) => answer === text);
}

function gone() {
  return linkPage(t("dates.noSuchInvitation"), html`<p>${t("dates.askWhoInvitedYou")}</p>`);
}

function page({ date, guest, list }: Invited, chosen: Answer | undefined) {
  const selected = chosen ?? guest.answer ?? "";
  return linkPage(
    date.title,
    html`<p>
        ${say(whenInWords(date.when))}${date.place === "" ? "" : html`<br />${date.place}`}
        ${date.link === "" ? "" : html`<br /><a href="${date.link}" rel="noreferrer">${date.link}</a>`}
      </p>
      ${date.text === "" ? "" : html`<pre>${date.text}</pre>`}
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
        <button>${t("dates.sendAnswer")}</button>
      </form>`,
  );
}
