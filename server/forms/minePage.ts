import { html } from "hono/html";
import type { AnswerState } from "../db/schema/forms";
import { t, type TextId } from "../texts/t";
import { type LoadedForm, isOpen } from "./queries";
import type { answersOf } from "./answerQueries";

/** Draws a family's own answers. The page shows nothing else that the house knows. */
export function minePage(
  form: LoadedForm,
  token: string,
  address: string,
  answers: Awaited<ReturnType<typeof answersOf>>,
) {
  const waiting = answers.filter(({ state }) => state === "unconfirmed").length;
  const open = isOpen(form) === "open";
  const mine = `/f/${form.slug}?mine=${encodeURIComponent(token)}`;
  return html` <p>${t("forms.answersFrom", { address })}</p>
    ${waiting === 0 ? "" : html`<form method="post" action="/f/mine/${token}"><button>${t("forms.yes", { waiting })}</button></form>`}
    ${answers.map(
      ({ id, answer, state }) =>
        html`<div class="answer">
          <b>${answer.given} ${answer.family}</b>
          <span class="state">${state === "replaced" ? "" : t(STATE_WORDS[state])}</span>
          <dl>
            ${[
              [t("forms.class"), answer.class],
              [t("forms.team"), answer.team],
              [t("shared.guardian"), answer.name],
              [
                t("forms.secondGuardian"),
                answer.secondName === "" ? "" : `${answer.secondName} ${answer.secondAddress}`,
              ],
            ].flatMap(([term, value]) =>
              value === ""
                ? []
                : [
                    html`<dt>${term}</dt>
                      <dd>${value}</dd>`,
                  ],
            )}
          </dl>
          ${open && state !== "unconfirmed" ? html`<a href="${mine}&changes=${id}">${t("forms.changeThisAnswer")}</a>` : ""}
        </div>`,
    )}
    ${open && answers.length > waiting ? html`<p class="more"><a href="${mine}">${t("forms.addAnotherChild")}</a></p>` : ""}`;
}

const STATE_WORDS: Record<Exclude<AnswerState, "replaced">, TextId> = {
  unconfirmed: "forms.waitsForYourDecision",
  accepted: "forms.isWithTheOffice",
  asked: "forms.isWithTheOffice",
  held: "forms.isWithTheOffice",
  refused: "forms.couldNotBeTakenAsk",
};
