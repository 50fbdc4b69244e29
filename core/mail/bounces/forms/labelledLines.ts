import type { BounceForm } from "../form";
import { sortReason } from "../humanPart";

const REASON =
  /^[ \t]*(?:reason|error|details?|problem|diagnostic(?: information)?(?: for administrators)?|remote server (?:returned|said|response)|grund|fehler|raison|motivo)[ \t]*:[ \t]*(?:\r?\n[ \t]*)?(.*(?:\r?\n[ \t]+.*)*)/im;
const WHO =
  /^[ \t]*(?:failed recipient|recipient|to|address|user|empfänger|destinataire|destinatario)[ \t]*:[ \t]*(?:\r?\n[ \t]*)?\S+@\S+/im;

/** Lines with a label each: whom it was for, and why not. */
export const labelledLines: BounceForm = {
  id: "labelled lines",
  read: ({ text }) => {
    const reason = REASON.exec(text)?.[1];
    if (reason === undefined || !WHO.test(text)) return undefined;
    return sortReason(reason, text);
  },
};
