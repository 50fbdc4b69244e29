import { t } from "../texts/t";
import { html, raw } from "hono/html";
import type { FormContent, FormLabel, FormWords } from "@amigo/core/forms/form";
import type { FormChoices } from "@amigo/core/forms/readAnswer";
import {
  addressField,
  choiceField,
  consentField,
  howOftenField,
  labelIn,
  lineField,
  valueIn,
  type Drawn,
  type Filled,
  type Html,
} from "./formControls";
import { isRightToLeft } from "@amigo/language/families";

/** A page for families: light, in one column, whole without a script. */
export function familyPage(
  title: string,
  language: string,
  house: string,
  body: unknown,
  { script = true } = {},
): Html {
  return html`<!doctype html>
    <html lang="${language}" dir="${isRightToLeft(language) ? "rtl" : "ltr"}">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width,initial-scale=1" />
        <meta name="robots" content="noindex" />
        <title>${title}${house === "" ? "" : ` · ${house}`}</title>
        <link rel="stylesheet" href="/form.css" />
        ${script ? html`<script src="/form.js" defer></script>` : ""}
      </head>
      <body>
        <main>
          <p class="house">${house}</p>
          <h1>${title}</h1>
          ${body}
        </main>
      </body>
    </html>`;
}

/** Draws the form itself. Every field has its label, what is wrong with it is shown beside it, and what was written stays. */
export function formFields(
  form: FormContent,
  words: FormWords,
  choices: FormChoices,
  filled: Filled,
  languages: readonly { code: string; url: string }[],
): Html {
  const drawn: Drawn = { words, filled };
  return html` ${languagesLine(words, languages)}
    ${words.intro.trim() === "" ? "" : html`<p class="intro">${words.intro}</p>`}
    ${filled.lookOver === true ? html`<div class="faults" role="alert" tabindex="-1"><b>${labelIn(drawn, "lookOver")}</b></div>` : ""}
    ${filled.faults.length === 0 ? "" : faultsBox(drawn)}
    <form
      method="post"
      action="${filled.action}"
      novalidate${filled.action === "" ? raw(" inert") : ""}
    >
      ${hiddenFields(drawn)} ${childFields(drawn, form, choices)} ${guardianFields(drawn, form)}
      ${questionFields(drawn, form)} ${form.parts.includes("how often") ? howOftenField(drawn) : ""}
      ${form.parts.includes("consent") && words.consent.trim() !== "" ? consentField(drawn) : ""}
      <button>${labelIn(drawn, "send")}</button>
    </form>`;
}

function languagesLine(
  words: FormWords,
  languages: readonly { code: string; url: string }[],
): Html | string {
  if (languages.length < 2) return "";
  return html`<p class="languages">
    ${languages.map(({ code, url }) => (code === words.language ? html`<b lang="${code}">${nameOfLanguage(code)}</b>` : html`<a href="${url}" lang="${code}" hreflang="${code}">${nameOfLanguage(code)}</a>`))}
  </p>`;
}

/** Draws what is wrong in the whole form, with a link to each field. */
function faultsBox(drawn: Drawn): Html {
  return html`<div class="faults" role="alert" tabindex="-1">
    <b>${labelIn(drawn, "mend")}</b>
    <ul>
      ${drawn.filled.faults.map(({ field }) => html`<li><a href="#at-${field}">${nameOfField(field, drawn)}</a></li>`)}
    </ul>
  </div>`;
}

/** Draws the fields that nobody sees, and the one that only robots fill in. */
function hiddenFields(drawn: Drawn): Html {
  const { words, filled } = drawn;
  const code = valueIn(drawn, "code");
  return html`<input type="hidden" name="begun" value="${filled.begun}" /><input
      type="hidden"
      name="language"
      value="${words.language}"
    />${code === "" ? "" : html`<input type="hidden" name="code" value="${code}" />`}
    ${filled.mine === "" ? "" : html`<input type="hidden" name="mine" value="${filled.mine}" /><input type="hidden" name="changes" value="${filled.changes}" />`}
    <p class="robot" aria-hidden="true">
      <label
        >${t("forms.leaveThisEmpty")} <input name="website" tabindex="-1" autocomplete="off"
      /></label>
    </p>`;
}

function childFields(drawn: Drawn, form: FormContent, { classes, teams }: FormChoices): Html {
  const isWanted = (part: "class" | "team", choices: readonly string[]): boolean =>
    form.parts.includes(part) && choices.length > 0;
  return html`${lineField(drawn, "given", labelIn(drawn, "given"))}${lineField(drawn, "family", labelIn(drawn, "family"))}
  ${isWanted("class", classes) ? choiceField(drawn, "class", labelIn(drawn, "class"), classes, false) : ""}
  ${isWanted("team", teams) ? choiceField(drawn, "team", labelIn(drawn, "team"), teams, true) : ""}`;
}

/** Draws the guardian, whose name and address can't be changed once they are known, and the second guardian. */
function guardianFields(drawn: Drawn, form: FormContent): Html {
  const label = (id: FormLabel): string => labelIn(drawn, id);
  const guardian = drawn.filled.known
    ? knownGuardian(drawn)
    : html`${lineField(drawn, "name", label("name"), { complete: "name" })}${addressField(drawn, "address", label("address"), { complete: "email" })}`;
  return html`${guardian}
  ${form.parts.includes("relationship") ? lineField(drawn, "relationship", label("relationship"), { optional: true }) : ""}
  ${form.parts.includes("second guardian") ? html`${lineField(drawn, "secondName", label("secondName"), { optional: true })}${addressField(drawn, "secondAddress", label("secondAddress"), { optional: true })}${lineField(drawn, "secondRelationship", label("secondRelationship"), { optional: true })}` : ""}`;
}

function knownGuardian(drawn: Drawn): Html {
  const name = valueIn(drawn, "name");
  const address = valueIn(drawn, "address");
  return html`<div class="field known">
    <p>
      ${labelIn(drawn, "name")}: <b>${name}</b><br />${labelIn(drawn, "address")}:
      <b>${address}</b>
    </p>
    <input type="hidden" name="name" value="${name}" /><input
      type="hidden"
      name="address"
      value="${address}"
    />
  </div>`;
}

function questionFields(drawn: Drawn, form: FormContent): (Html | string)[] {
  return form.questions.map(({ required }, at) => {
    const question = drawn.words.questions[at];
    if (question === undefined) return "";
    const id = `question.${at}`;
    return question.choices.length > 0
      ? choiceField(drawn, id, question.title, question.choices, !required)
      : lineField(drawn, id, question.title, { optional: !required, longest: 1000 });
  });
}

/** A language by its own name. */
export function nameOfLanguage(code: string): string {
  try {
    return new Intl.DisplayNames([code], { type: "language" }).of(code) ?? code;
  } catch {
    return code;
  }
}

function nameOfField(field: string, drawn: Drawn): string {
  const { words } = drawn;
  const question = /^question\.(\d+)$/.exec(field)?.[1];
  if (question !== undefined) return words.questions[Number(question)]?.title ?? "";
  if (field === "consent")
    return words.consent.length > 60 ? `${words.consent.slice(0, 60)} …` : words.consent;
  return labelIn(drawn, field as FormLabel);
}
