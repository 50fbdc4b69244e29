import Papa from "papaparse";
import { wordsIn } from "@amigo/core/forms/form";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import type { Queries } from "../db/connect";
import { t } from "../texts/t";
import type { LoadedForm } from "./queries";
import { answersToExport } from "./answerQueries";

/** Returns all answers of a form as CSV (RFC 4180), which spreadsheets open without running anything. */
export async function answersCsv(db: Queries, form: LoadedForm): Promise<string> {
  const words = wordsIn(form.content, "");
  const rows = await answersToExport(db, form.id);
  const head = [
    t("forms.answered"),
    t("forms.state"),
    t("shared.firstName"),
    t("shared.surname"),
    t("forms.class"),
    t("forms.team"),
    t("shared.guardian"),
    t("shared.address"),
    t("forms.relationship"),
    t("forms.secondGuardian"),
    t("forms.secondAddress"),
    t("forms.secondRelationship"),
    ...words.questions.map(({ title }) => title),
    t("forms.howOften"),
    t("forms.consent"),
    t("forms.language"),
    t("forms.decidedBy"),
  ];
  const cells = rows.map(({ at, state, answer, language, decidedBy }) => [
    at.toISOString(),
    state,
    answer.given,
    answer.family,
    answer.class,
    answer.team,
    answer.name,
    answer.address,
    answer.relationship,
    answer.secondName,
    answer.secondAddress,
    answer.secondRelationship,
    ...form.content.questions.map((_, index) => answer.questions[index] ?? ""),
    answer.howOften,
    answer.consent === 0 ? "" : String(answer.consent),
    language,
    decidedBy,
  ]);
  return `\uFEFF${Papa.unparse(
    [head, ...cells].map((row) => row.map(harmlessCell)),
    { newline: "\r\n" },
  )}`;
}
