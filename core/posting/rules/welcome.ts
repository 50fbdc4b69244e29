import { message } from "@amigo/language/message";
import { welcomeFaults } from "../../mail/welcomeText";
import type { Rule } from "./rule";

/** The words by which somebody is welcomed, where they are. */
export const welcome: Rule = {
  id: "welcome",
  words: message("posting.welcomeText"),
  form: "text",
  usual: "",
  values: [],
  most: 5000,
  fault: (text) =>
    welcomeFaults(text).map(({ at, sentence }) =>
      message("posting.theWelcomeIsNotRight", { sign: at + 1, sentence }),
    )[0],
};
