import { t } from "../texts/t";
import { html, raw } from "hono/html";
import { say as sayMessage } from "@amigo/language/say";
import { labelOf, type FormContent, type FormLabel, type FormWords } from "@amigo/core/forms/form";
import type { AnswerFault, FormChoices } from "@amigo/core/forms/readAnswer";

type Html = ReturnType<typeof html>;

/** What stands in the fields, and what is wrong with them. */
export interface Filled {
  fields: Readonly<Record<string, string>>;
  faults: readonly AnswerFault[];
  /** Whether it came back quicker than anybody writes, and is to be looked over. */
  lookOver?: boolean;
  /** Where the form sends to; empty for a preview that sends nowhere. */
  action: string;
  /** Proves when the form was opened. */
  begun: string;
  /** The secret of the family's own link and the answer that is changed; empty for none. */
  mine: string;
  changes: string;
  /** Whether name and address are known already and not to be changed here. */
  known: boolean;
}

/** A page for families: light, in one column, whole without a script. */
export function familyPage(
  title: string,
  language: string,
  house: string,
  body: unknown,
  { script = true } = {},
): Html {
  return html`<!doctype html>
    <html lang="${language}">
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

/** The form itself. Every field has its label, what is wrong with it stands with it, and what was written stays. */
export function formFields(
  form: FormContent,
  words: FormWords,
  { classes, teams }: FormChoices,
  filled: Filled,
  languages: readonly { code: string; url: string }[],
): Html {
  const say = (label: FormLabel, parts?: Record<string, string>): string =>
    sayMessage(labelOf(words, label, parts));
  const has = (part: FormContent["parts"][number]): boolean => form.parts.includes(part);
  const value = (id: string): string => filled.fields[id] ?? "";
  const faultOf = (id: string): AnswerFault | undefined =>
    filled.faults.find(({ field }) => field === id);

  const around = (
    id: string,
    label: string,
    isOptional: boolean,
    control: (described: Html | string) => Html,
    legend = false,
  ): Html => {
    const fault = faultOf(id);
    const described =
      fault === undefined ? "" : html` aria-invalid="true" aria-describedby="fault-${id}"`;
    const wrong =
      fault === undefined
        ? ""
        : html`<p class="fault" id="fault-${id}">
              <b>!</b>
              ${fault.proposal === undefined ? sayMessage(fault.sentence) : say("didYouMean", { address: fault.proposal })}
            </p>
            ${
              fault.proposal === undefined
                ? ""
                : html`<input type="hidden" name="was.${id}" value="${value(id).trim()}" />
                    <p class="meant">
                      <label
                        ><input
                          type="checkbox"
                          name="take.${id}"
                          value="${fault.proposal}"
                          checked
                        />
                        ${fault.proposal}</label
                      >${fault.canKeep === true ? html`<label><input type="checkbox" name="keep.${id}" value="${value(id).trim().toLowerCase()}" /> ${say("keep", { address: value(id).trim() })}</label>` : ""}
                    </p>`
            }`;
    const name = html`${label}${isOptional ? html` <small>(${say("optional")})</small>` : ""}`;
    return legend
      ? html`<fieldset class="field" id="at-${id}">
          <legend>${name}</legend>
          ${control(described)}${wrong}
        </fieldset>`
      : html`<div class="field" id="at-${id}">
          <label for="${id}">${name}</label>${control(described)}${wrong}
        </div>`;
  };
  const line = (
    id: string,
    label: string,
    { optional = false, type = "text", complete = "off", mode = "", longest = 120 } = {},
  ): Html =>
    around(
      id,
      label,
      optional,
      (described) =>
        html`<input
          id="${id}"
          name="${id}"
          type="${type}"
          value="${value(id)}"
          autocomplete="${complete}"
          maxlength="${String(longest)}"
          ${mode === "" ? "" : html` inputmode="${mode}" autocapitalize="none" spellcheck="false" data-check`}${optional ? "" : raw(" required")}${described}
        />`,
    );
  const choose = (id: string, label: string, choices: readonly string[], optional: boolean): Html =>
    around(
      id,
      label,
      optional,
      (described) =>
        html`<select id="${id}" name="${id}" ${optional ? "" : raw(" required")}${described}>
          <option value="">${say("choose")}</option>
          ${choices.map((choice) => html`<option${choice === value(id) ? raw(" selected") : ""}>${choice}</option>`)}
        </select>`,
    );
  const often = (id: string, label: FormLabel): Html =>
    html`<label class="line"
      ><input
        type="radio"
        name="howOften"
        value="${id}"
        ${(value("howOften") || "every message") === id ? raw(" checked") : ""}
      />
      ${say(label)}</label
    >`;

  return html` ${languages.length < 2 ? "" : html`<p class="languages">${languages.map(({ code, url }) => (code === words.language ? html`<b lang="${code}">${nameOfLanguage(code)}</b>` : html`<a href="${url}" lang="${code}" hreflang="${code}">${nameOfLanguage(code)}</a>`))}</p>`}
    ${words.intro.trim() === "" ? "" : html`<p class="intro">${words.intro}</p>`}
    ${filled.lookOver === true ? html`<div class="faults" role="alert" tabindex="-1"><b>${say("lookOver")}</b></div>` : ""}
    ${
      filled.faults.length === 0
        ? ""
        : html`<div class="faults" role="alert" tabindex="-1">
            <b>${say("mend")}</b>
            <ul>
              ${filled.faults.map(({ field }) => html`<li><a href="#at-${field}">${nameOfField(field, words, say)}</a></li>`)}
            </ul>
          </div>`
    }
    <form
      method="post"
      action="${filled.action}"
      novalidate${filled.action === "" ? raw(" inert") : ""}
    >
      <input type="hidden" name="begun" value="${filled.begun}" /><input
        type="hidden"
        name="language"
        value="${words.language}"
      />${value("code") === "" ? "" : html`<input type="hidden" name="code" value="${value("code")}" />`}
      ${filled.mine === "" ? "" : html`<input type="hidden" name="mine" value="${filled.mine}" /><input type="hidden" name="changes" value="${filled.changes}" />`}
      <p class="robot" aria-hidden="true">
        <label
          >${t("forms.leaveThisEmpty")} <input name="website" tabindex="-1" autocomplete="off"
        /></label>
      </p>
      ${line("given", say("given"))}${line("family", say("family"))}
      ${has("class") && classes.length > 0 ? choose("class", say("class"), classes, false) : ""}
      ${has("team") && teams.length > 0 ? choose("team", say("team"), teams, true) : ""}
      ${
        filled.known
          ? html`<div class="field known">
              <p>
                ${say("name")}: <b>${value("name")}</b><br />${say("address")}:
                <b>${value("address")}</b>
              </p>
              <input type="hidden" name="name" value="${value("name")}" /><input
                type="hidden"
                name="address"
                value="${value("address")}"
              />
            </div>`
          : html`${line("name", say("name"), { complete: "name" })}${line("address", say("address"), { type: "email", complete: "email", mode: "email", longest: 254 })}`
      }
      ${has("relationship") ? line("relationship", say("relationship"), { optional: true }) : ""}
      ${has("second guardian") ? html`${line("secondName", say("secondName"), { optional: true })}${line("secondAddress", say("secondAddress"), { optional: true, type: "email", mode: "email", longest: 254 })}${line("secondRelationship", say("secondRelationship"), { optional: true })}` : ""}
      ${form.questions.map(({ required }, at) => {
        const own = words.questions[at];
        return own === undefined
          ? ""
          : own.choices.length > 0
            ? choose(`question.${at}`, own.title, own.choices, !required)
            : line(`question.${at}`, own.title, { optional: !required, longest: 1000 });
      })}
      ${has("how often") ? around("howOften", say("howOften"), false, () => html`${often("every message", "each")}${often("daily", "daily")}${often("weekly", "weekly")}`, true) : ""}
      ${
        has("consent") && words.consent.trim() !== ""
          ? html`<div class="field consent" id="at-consent">
              <label class="line"
                ><input
                  type="checkbox"
                  name="consent"
                  value="yes"
                  ${value("consent") === "yes" ? raw(" checked") : ""}${faultOf("consent") === undefined ? "" : raw(' aria-invalid="true" aria-describedby="fault-consent"')}
                />
                <span>${words.consent}</span></label
              >${faultOf("consent") === undefined ? "" : html`<p class="fault" id="fault-consent"><b>!</b> ${sayMessage(faultOf("consent")?.sentence)}</p>`}
            </div>`
          : ""
      }
      <button>${say("send")}</button>
    </form>`;
}

/** A language by its own name. */
export function nameOfLanguage(code: string): string {
  try {
    return new Intl.DisplayNames([code], { type: "language" }).of(code) ?? code;
  } catch {
    return code;
  }
}

function nameOfField(field: string, words: FormWords, say: (label: FormLabel) => string): string {
  const question = /^question\.(\d+)$/.exec(field)?.[1];
  if (question !== undefined) return words.questions[Number(question)]?.title ?? "";
  if (field === "consent")
    return words.consent.length > 60 ? `${words.consent.slice(0, 60)} …` : words.consent;
  return say(field as FormLabel);
}
