import type { Rule } from "./rule";

/** The words by which somebody is welcomed, where they are. */
export const welcome: Rule = { id: "welcome", words: "welcome text", form: "text", usual: "", values: [], most: 5000 };
