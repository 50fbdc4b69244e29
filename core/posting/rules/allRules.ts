import { message, written, type Message } from "@amigo/language/message";
import { also } from "./also";
import { archive } from "./archive";
import { attachments } from "./attachments";
import { attachmentSize } from "./attachmentSize";
import { findable } from "./findable";
import { footer } from "./footer";
import { from } from "./from";
import { howOften } from "./howOften";
import { joining } from "./joining";
import { leaving } from "./leaving";
import { longest } from "./longest";
import { membersPosts } from "./membersPosts";
import { other } from "./other";
import { outside } from "./outside";
import { outsideWait } from "./outsideWait";
import { perDay } from "./perDay";
import { replies } from "./replies";
import { roster } from "./roster";
import { seen } from "./seen";
import type { Rule, RuleId, Rules } from "./rule";
import { shelfKinds } from "./shelfKinds";
import { welcome } from "./welcome";
import { writers } from "./writers";

/** Every posting rule, by its id, in the order in which they are read. */
export const ALL_RULES: Readonly<Record<RuleId, Rule>> = {
  writers,
  also,
  other,
  membersPosts,
  from,
  replies,
  seen,
  roster,
  archive,
  findable,
  joining,
  leaving,
  outside,
  outsideWait,
  attachments,
  attachmentSize,
  longest,
  perDay,
  shelfKinds,
  howOften,
  welcome,
  footer,
};

/** What holds where nobody has said anything. */
export const USUAL_RULES: Rules = Object.fromEntries(
  Object.values(ALL_RULES).map(({ id, usual }) => [id, usual]),
) as Rules;

/** How a value of a rule is said; the value itself where it is no choice. */
export function wordsOf(id: RuleId, value: string): Message {
  const { values, unit } = ALL_RULES[id];
  return (
    values.find((choice) => choice.value === value)?.words ??
    (unit === undefined ? written(value) : message("posting.withUnit", { value, unit }))
  );
}

/** What is wrong with a value of a rule, in a sentence; undefined where it will do. */
export function ruleFault(id: RuleId, value: string): Message | undefined {
  const { form, values, words, most = 0, unit, fault } = ALL_RULES[id];
  switch (form) {
    case "choice":
      return values.some((choice) => choice.value === value)
        ? undefined
        : message("posting.isNoChoiceForThere", {
            value: value.slice(0, 60),
            rule: words,
            choices: values.map((choice) => `"${choice.value}"`).join(", "),
          });
    case "number":
      return /^[1-9]\d{0,5}$/.test(value) && Number(value) <= most
        ? undefined
        : message("posting.forWriteAWholeNumber", {
            rule: words,
            most,
            unit,
            value: value.slice(0, 20),
          });
    case "addresses":
      return /[\p{Cc}<>"]/u.test(value) || value.length > 2000
        ? message("posting.forWriteAddressesWithCommas", { words })
        : value
            .split(/[\s,]+/)
            .filter((one) => one !== "" && !/^[^@]+@[^@]+\.[^@.]+$/.test(one))
            .map((one) => message("posting.isNoAddress", { address: one.slice(0, 80) }))[0];
    case "text":
      return value.length > most
        ? message("posting.theCanHaveCharactersThis", { rule: words, most, length: value.length })
        : fault?.(value);
  }
}
