import { fieldValue } from "../../splitMessage";
import type { BounceForm } from "../form";

const SUBJECT =
  /^(\[?auto(matic|-?reply|antwort|matische antwort)|out of (the )?office|abwesen|absence|vacation|ausser haus|fuera de la oficina|fuori sede|r[eé]ponse automatique)/i;

/** Out-of-office and other answers that a program gives for a person (RFC 3834): the address works. */
export const automaticAnswer: BounceForm = {
  id: "automatic answer",
  read: ({ split, subject, report }) => {
    if (report !== "") return undefined;
    const automatic =
      /^auto-replied/i.test(fieldValue(split, "auto-submitted") ?? "") &&
      !/^(undeliver|returned mail|mail delivery|delivery (status|failure)|failure)/i.test(subject);
    const marked =
      split.fields.some(
        ({ name }) =>
          name === "x-autoreply" || name === "x-autorespond" || name === "x-auto-response-suppress",
      ) || /^auto_reply$/i.test(fieldValue(split, "precedence") ?? "");
    return (automatic &&
      !/failed|x-failed-recipients/i.test(split.fields.map(({ name }) => name).join(" "))) ||
      SUBJECT.test(subject) ||
      (marked && !/deliver/i.test(subject))
      ? { sort: "not a bounce", words: subject }
      : undefined;
  },
};
