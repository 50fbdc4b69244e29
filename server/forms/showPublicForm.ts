import { html } from "hono/html";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { findCaller } from "../http/route";
import { t } from "../texts/t";
import { formAtHand } from "./formAtHand";
import { formFields } from "./formPage";
import { provenOpening } from "./opened";
import { wordsFor, CLOSED_WORDS, languagesOf, publicPage, missingFormPage } from "./publicPage";
import { isOpen } from "./queries";
import { answersOf } from "./answerQueries";
import { linkBehind } from "../posting/linkQueries";

/** Shows a form to families, or when it opens or has closed. */
export async function showPublicForm(
  context: Context,
  http: FileRequest<"/f/:slug">,
): Promise<Response> {
  const { db } = context;
  const { form, choices } = await formAtHand(context, http.req.param("slug"));
  if (form === undefined) return missingFormPage(http);
  const words = wordsFor(http, form);
  const is = isOpen(form);
  if (is !== "open")
    return publicPage(
      http,
      form,
      words,
      words.title,
      html`<p>
        <b>${t(CLOSED_WORDS[is])}.</b>
        ${is === "not yet" ? t("forms.opensOn", { day: { day: form.content.opensOn } }) : t("forms.tellTheSchool", { school: form.house, address: `postmaster@${form.listDomain}` })}
      </p>`,
    );
  const mine = http.req.query("mine") ?? "";
  const link = mine === "" ? undefined : await linkBehind(db, mine, "sign-up");
  const isMine = link !== undefined && link.about === form.id;
  const changes = http.req.query("changes") ?? "";
  const before = isMine ? await answersOf(db, form.id, link.address) : [];
  const changed = before.find(({ id }) => id === changes);
  const last = before[0];
  const caller = await findCaller(http, context);
  const fields =
    changed !== undefined
      ? fieldsOf(changed.answer)
      : last !== undefined
        ? guardianFields(last.answer)
        : caller !== undefined
          ? { name: caller.name, address: caller.email }
          : {};
  return publicPage(
    http,
    form,
    words,
    words.title,
    formFields(
      form.content,
      words,
      choices,
      {
        fields: { ...fields, code: http.req.query("code") ?? "" },
        faults: [],
        action: `/f/${form.slug}`,
        begun: provenOpening(context.houseKey, Date.now()),
        mine: isMine ? mine : "",
        changes: changed?.id ?? "",
        known: !isMine && caller !== undefined,
      },
      languagesOf(
        form,
        isMine ? `&mine=${encodeURIComponent(mine)}&changes=${changed?.id ?? ""}` : "",
      ),
    ),
  );
}

function fieldsOf(answer: Answer): Record<string, string> {
  return {
    ...guardianFields(answer),
    given: answer.given,
    family: answer.family,
    class: answer.class,
    team: answer.team,
    ...Object.fromEntries(answer.questions.map((text, at) => [`question.${at}`, text])),
    consent: "yes",
  };
}

function guardianFields({
  name,
  address,
  relationship,
  secondName,
  secondAddress,
  secondRelationship,
  howOften,
  family,
}: Answer): Record<string, string> {
  return {
    name,
    address,
    relationship,
    secondName,
    secondAddress,
    secondRelationship,
    howOften,
    family,
  };
}
