import { fieldValue } from "../splitMessage";
import type { ReturnedMail } from "./form";
import { humanLines } from "./humanPart";
import { foldedWords } from "./plainWords";

/** How mails say that one wasn't delivered, folded, a line for each group of languages. */
const NOT_DELIVERED = new RegExp(
  [
    "undeliver|(not|n't|never) (be(en)? )?(successfully )?(delivered|sent|reached?)|(unable|not able|failed|n't|not|never) (to )?(deliver|reach)|returned (mail|to sender|message)|delivery (status|fail|has failed|problem|error|report|notification)|mail (delivery|system error)|failure notice|mail fail|could not (deliver|send)|bounced",
    "unzustellbar|nicht (\\S+ )?(zugestellt|zustellbar|ausgeliefert|ubermittelt)|zustell(ung|fehler)\\S* (fehlgeschlagen|gescheitert|war nicht)|fehlgeschlagene zustellung|zustellungsbericht|zustellfehler",
    "non remis|pas (\\S+ )?(ete |etre )?(remis|distribue|delivre|envoye)|echec (de |d')|non distribue|avis de non",
    "no (\\S+ ){0,4}entreg|no (\\S+ )?entregado|no (\\S+ ){0,3}(enviad|enviar)|fallo (de|en) (la )?entrega|devuelto",
    "mancat[oa] (recapito|consegna)|non (\\S+ ){0,4}(recapitat|consegnat|inviat)|impossibile (recapitare|consegnare)",
    "nao (\\S+ ){0,4}(entreg|enviad)|falha (na|de) entrega|niet (\\S+ ){0,4}(bezorg|afgelever|besteld)|onbestelbaar|bezorging mislukt",
    "nie (\\S+ ){0,4}(dorecz|dostarcz)|niedorecz|zwrot wiadomosci|teslim edile?m|iletilemed|gonderilemedi|ulastirilamad",
    "не (\\S+ ){0,3}доставл|недостав|не удалось (\\S+ ){0,3}доставить|не вдалося (\\S+ ){0,3}доставити|возвра\\S+ письм|неможлив\\S+ доставити",
    "nedorucen|nedorucit|nelze dorucit|(inte|ikke) (\\S+ ){0,3}(levere|lamnas)|kunde inte|olevererbar|ei voitu toimittaa|toimitus epaonnist|kezbesithetetlen|nem (\\S+ )?kezbesit|nu (\\S+ ){0,3}livrat|δεν (\\S+ ){0,3}παραδ",
    "配信(でき|不能|エラ)|配達(でき|不能)|送信(でき|エラ)|届けられ|无法(投递|送达|发送)|無法(投遞|送達|傳送)|退信|投递失败|未送达|배달(하지|되지|실패)|전송(하지|되지|실패)|반송|تعذر (تسليم|ارسال|إرسال)|لم يتم تسليم|לא נמסר|לא ניתן למסור|khong gui duoc|khong the gui|tidak terkirim|gagal (terkirim|dikirim)",
  ]
    .map((line) => foldedWords(line))
    .join("|"),
  "u",
);

const BY_A_MAIL_SYSTEM =
  /mailer-?daemon|mail ?delivery|postmaster|mail (system|administrator)|no-?reply.{0,20}delivery/i;

/** A person answers a returned mail, or hands it on. */
const HANDED_ON = /^(re|aw|antw|sv|vs|odp|fwd?|wg|tr|rv|i|enc|ynt|ilt|пересл|отв)[ \t]*:/i;

/** Whether a mail that has no fields for machines says of itself that another couldn't be delivered. */
export function looksReturned({ split, returnPath, subject, text }: ReturnedMail): boolean {
  const isByASystem = returnPath === "" || BY_A_MAIL_SYSTEM.test(fieldValue(split, "from") ?? "");
  if (NOT_DELIVERED.test(foldedWords(subject))) return isByASystem || !HANDED_ON.test(subject);
  if (!isByASystem) return false;
  return NOT_DELIVERED.test(foldedWords(humanLines(text).slice(0, 12).join(" ")));
}
