import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** The addresses of a rule that names some. */
export function addressesIn(value: string): string[] {
  return value.split(/[\s,]+/).filter((address) => address !== "");
}

/** Single people or addresses that may write beside those of the rule before. */
export const also: Rule = {
  id: "also",
  words: message("posting.whoElseMayWrite"),
  form: "addresses",
  usual: "",
  values: [],
  judge: ({ sender }, rules) =>
    addressesIn(rules.also).includes(sender.address)
      ? { sentence: message("posting.isNamedAsOneWho", { name: sender.name }) }
      : undefined,
};
