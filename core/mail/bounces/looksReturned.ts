import { fieldValue } from "../splitMessage";
import type { ReturnedMail } from "./form";
import { humanLines } from "./humanPart";
import { foldedPattern } from "./ideas";
import { foldedWords } from "./plainWords";

/** "Not", then nothing but auxiliary verbs and their like, then a word of delivering: "no se ha podido entregar", never "no olvides entregar". */
function negated(not: string, auxiliaries: string, delivered: string): string {
  return `(${not}) ((${auxiliaries}) ){0,4}(${delivered})`;
}

/** How mails say that one wasn't delivered, a line for each group of languages. */
const NOT_DELIVERED = new RegExp(
  [
    "undeliver|(not|n't|never) (be(en)? )?(successfully )?(delivered|sent|reached?)|(unable|not able|failed|n't|not|never) (to )?(deliver|reach)|returned (mail|to sender|message)|delivery (status|fail|has failed|problem|error|report|notification)|mail (delivery|system error)|failure notice|mail fail|could not (deliver|send)|bounced",
    "unzustellbar|nicht (\\S+ )?(zugestellt|zustellbar|ausgeliefert|ubermittelt)|zustell(ung|fehler)\\S* (fehlgeschlagen|gescheitert|war nicht)|fehlgeschlagene zustellung|zustellungsbericht|zustellfehler",
    `non remis|${negated("pas", "pu|ete|etre", "remis|distribue|delivre|envoye")}|echec (de |d')|non distribue|avis de non`,
    `${negated("no", "se|le|les|ha|han|fue|sido|pudo|puede|podido|ser|hemos|podemos|pudimos", "entreg|enviad|enviar")}|fallo (de|en) (la )?entrega|devuelto`,
    `mancat[oa] (recapito|consegna)|${negated("non", "e|si|stat[oaie]|puo|essere|abbiamo|potuto|possibile|sono", "recapitat|consegnat|inviat")}|impossibile (recapitare|consegnare)`,
    `${negated("nao", "foi|foram|pode|pudemos|conseguimos|ser|sera|se|possivel", "entreg|enviad")}|falha (na|de) entrega|${negated("niet", "is|kon|kan|kunnen|werd|worden", "bezorg|afgelever|besteld")}|onbestelbaar|bezorging mislukt`,
    `${negated("nie", "zostal[aoy]?|moze|mogl[aoy]?|byc|udalo|sie|mozna|jest|byl[aoy]?", "dorecz|dostarcz")}|niedorecz|zwrot wiadomosci|teslim edile?m|iletilemed|gonderilemedi|ulastirilamad`,
    `${negated("не", "был[аои]?|может|мог(ло|ла|ли)?|быть|удалось|удается", "доставл|доставить")}|недостав|${negated("не", "вдалося|може|могло|бути|було|була", "доставл|доставити|доставлен")}|возвра\\S+ письм|неможлив\\S+ доставити`,
    `nedorucen|nedorucit|nelze dorucit|${negated("inte|ikke", "kunde|kunne|kan|blev|ble|bli|blive|har|vart", "levere|lamnas")}|kunde inte|olevererbar|ei voitu toimittaa|toimitus epaonnist|kezbesithetetlen|nem (\\S+ )?kezbesit|${negated("nu", "a|au|fost|putut|fi|poate|s-a", "livrat")}|${negated("δεν", "ηταν|μπορει|μπορεσε|να|δυνατη|εγινε|η|εχει|ειναι", "παραδο")}`,
    "配信(でき|不能|エラ)|配達(でき|不能)|送信(でき|エラ)|届けられ|无法(投递|送达|发送)|無法(投遞|送達|傳送)|退信|投递失败|未送达|배달(하지|되지|실패)|전송(하지|되지|실패)|반송|تعذر (تسليم|ارسال|إرسال)|لم يتم تسليم|לא נמסר|לא ניתן למסור|khong gui duoc|khong the gui|tidak terkirim|gagal (terkirim|dikirim)",
  ]
    .map(foldedPattern)
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
