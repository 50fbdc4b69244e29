import { html, raw } from "hono/html";
import { labelOf, type FormLabel, type FormWords } from "@amigo/core/forms/form";
import type { AnswerFault } from "@amigo/core/forms/readAnswer";
import { say } from "@amigo/language/say";

export type Html = ReturnType<typeof html>;

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

/** A form that is being drawn: its words, and what stands in it. */
export interface Drawn {
  words: FormWords;
  filled: Filled;
}

/** Returns one of a form's built-in texts in the words of the form. */
export function labelIn(
  { words }: Pick<Drawn, "words">,
  label: FormLabel,
  parts?: Record<string, string>,
): string {
  return say(labelOf(words, label, parts));
}

/** Returns what stands in a field. */
export function valueIn({ filled }: Drawn, id: string): string {
  return filled.fields[id] ?? "";
}

/** Returns what is wrong with a field, or undefined. */
export function faultIn({ filled }: Drawn, id: string): AnswerFault | undefined {
  return filled.faults.find(({ field }) => field === id);
}

/** Draws a field: its label, the control, and what is wrong with it. Several controls stand in a group with a legend. */
export function fieldAround(
  drawn: Drawn,
  { id, label, isOptional = false, isGroup = false }: FieldLabel,
  control: (described: Html | string) => Html,
): Html {
  const fault = faultIn(drawn, id);
  const described =
    fault === undefined ? "" : html` aria-invalid="true" aria-describedby="fault-${id}"`;
  const wrong = fault === undefined ? "" : faultBelow(drawn, id, fault);
  const name = html`${label}${isOptional ? html` <small>(${labelIn(drawn, "optional")})</small>` : ""}`;
  return isGroup
    ? html`<fieldset class="field" id="at-${id}">
        <legend>${name}</legend>
        ${control(described)}${wrong}
      </fieldset>`
    : html`<div class="field" id="at-${id}">
        <label for="${id}">${name}</label>${control(described)}${wrong}
      </div>`;
}

interface FieldLabel {
  id: string;
  label: string;
  isOptional?: boolean;
  isGroup?: boolean;
}

/** Draws what is wrong with a field: in a sentence, or as what was probably meant, to be taken with one tick. */
function faultBelow(drawn: Drawn, id: string, fault: AnswerFault): Html {
  const value = valueIn(drawn, id).trim();
  if (fault.proposal === undefined)
    return html`<p class="fault" id="fault-${id}"><b>!</b> ${say(fault.sentence)}</p>`;
  const keep =
    fault.canKeep === true
      ? html`<label
          ><input type="checkbox" name="keep.${id}" value="${value.toLowerCase()}" />
          ${labelIn(drawn, "keep", { address: value })}</label
        >`
      : "";
  return html`<p class="fault" id="fault-${id}">
      <b>!</b> ${labelIn(drawn, "didYouMean", { address: fault.proposal })}
    </p>
    <input type="hidden" name="was.${id}" value="${value}" />
    <p class="meant">
      <label
        ><input type="checkbox" name="take.${id}" value="${fault.proposal}" checked />
        ${fault.proposal}</label
      >${keep}
    </p>`;
}

interface LineOptions {
  optional?: boolean;
  type?: string;
  complete?: string;
  mode?: string;
  longest?: number;
}

/** Draws a field of one line. */
export function lineField(
  drawn: Drawn,
  id: string,
  label: string,
  { optional = false, type = "text", complete = "off", mode = "", longest = 120 }: LineOptions = {},
): Html {
  return fieldAround(
    drawn,
    { id, label, isOptional: optional },
    (described) =>
      html`<input
        id="${id}"
        name="${id}"
        type="${type}"
        value="${valueIn(drawn, id)}"
        autocomplete="${complete}"
        maxlength="${String(longest)}"
        ${mode === "" ? "" : html` inputmode="${mode}" autocapitalize="none" spellcheck="false" data-check`}${optional ? "" : raw(" required")}${described}
      />`,
  );
}

/** Draws a field for an address of a guardian. */
export function addressField(
  drawn: Drawn,
  id: string,
  label: string,
  options: LineOptions = {},
): Html {
  return lineField(drawn, id, label, { type: "email", mode: "email", longest: 254, ...options });
}

/** Draws a field with a choice among words. */
export function choiceField(
  drawn: Drawn,
  id: string,
  label: string,
  choices: readonly string[],
  optional: boolean,
): Html {
  return fieldAround(
    drawn,
    { id, label, isOptional: optional },
    (described) =>
      html`<select id="${id}" name="${id}" ${optional ? "" : raw(" required")}${described}>
        <option value="">${labelIn(drawn, "choose")}</option>
        ${choices.map((choice) => html`<option${choice === valueIn(drawn, id) ? raw(" selected") : ""}>${choice}</option>`)}
      </select>`,
  );
}

/** Draws the choice of how often mail comes. */
export function howOftenField(drawn: Drawn): Html {
  const chosen = valueIn(drawn, "howOften") || "every message";
  const often = (id: string, label: FormLabel): Html =>
    html`<label class="line"
      ><input type="radio" name="howOften" value="${id}" ${chosen === id ? raw(" checked") : ""} />
      ${labelIn(drawn, label)}</label
    >`;
  return fieldAround(
    drawn,
    { id: "howOften", label: labelIn(drawn, "howOften"), isGroup: true },
    () =>
      html`${often("every message", "each")}${often("daily", "daily")}${often("weekly", "weekly")}`,
  );
}

/** Draws the tick by which a family consents to the form's own words. */
export function consentField(drawn: Drawn): Html {
  const fault = faultIn(drawn, "consent");
  return html`<div class="field consent" id="at-consent">
    <label class="line"
      ><input
        type="checkbox"
        name="consent"
        value="yes"
        ${valueIn(drawn, "consent") === "yes" ? raw(" checked") : ""}${fault === undefined ? "" : raw(' aria-invalid="true" aria-describedby="fault-consent"')}
      />
      <span>${drawn.words.consent}</span></label
    >${fault === undefined ? "" : html`<p class="fault" id="fault-consent"><b>!</b> ${say(fault.sentence)}</p>`}
  </div>`;
}
