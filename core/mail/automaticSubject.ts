/**
 * How programs begin the subject when they answer for somebody who is away, in many languages. To add a wording, add a line.
 * They are told from what a person writes by the colon that follows: "Absence of Ida on Monday" is a family's mail.
 */
const BEGINNINGS = [
  ...["automatic reply", "auto reply", "auto-reply", "autoreply", "auto response", "autoresponse"],
  ...["automatic response", "automated reply", "automated response"],
  ...["out of office autoreply", "vacation reply"],
  ...["automatische antwort", "abwesenheitsnotiz"],
  ...["automatische abwesenheitsnotiz", "nicht im büro"],
  ...["réponse automatique", "absence du bureau", "absent du bureau", "absente du bureau"],
  ...["message d'absence", "respuesta automática", "fuera de la oficina", "fuera de oficina"],
  ...["resposta automática", "fora do escritório"],
  ...["risposta automatica", "fuori sede", "fuori ufficio", "assente dall'ufficio"],
  ...["automatisch antwoord", "afwezigheidsbericht"],
  ...["automatisk svar", "autosvar", "automatiskt svar", "ikke på kontoret"],
  ...["automaattinen vastaus", "odpowiedź automatyczna", "automatyczna odpowiedź"],
  ...["poza biurem", "automatická odpověď", "automatická odpoveď"],
  ...["mimo kancelář", "automatikus válasz", "házon kívül", "răspuns automat"],
  ...["otomatik yanıt", "otomatik cevap", "ofis dışında", "αυτόματη απάντηση"],
  ...["автоматический ответ", "автоответ", "автоматична відповідь", "автовідповідь"],
  ...["автоматичен отговор", "رد تلقائي", "الرد التلقائي", "תשובה אוטומטית", "自动回复"],
  ...["自動回覆", "自動回信", "自動返信", "不在通知", "자동 회신", "자동응답", "부재중"],
  ...["ตอบกลับอัตโนมัติ", "trả lời tự động", "balasan otomatis"],
].map((words) => words.normalize("NFC"));

/** Words that people begin a subject with, too ("Abwesend: Ida am Montag"): a program's only where the mail answers another. */
const DOUBTFUL = [
  ...["out of office", "out of the office", "ooo", "abwesend", "abwesenheit", "afwezig"],
  ...["frånvaro", "fravær", "poissa", "nieobecność", "ausência temporária"],
].map((words) => words.normalize("NFC"));

/** Subjects that are an automatic answer's where they are all of it, and the mail answers another. */
const WHOLE = ["i am out of the office", "im out of office"];

/**
 * Returns whether a subject is that of an automatic answer.
 *
 * @param isAnswer whether the mail says that it answers another (In-Reply-To, References)
 */
export function isAutomaticSubject(subject: string, isAnswer: boolean): boolean {
  const plain = subject
    .normalize("NFC")
    .trim()
    .replace(/^[[(]([^\])]{1,60})[\])]\s*/, "$1: ")
    .toLowerCase();
  const colon = /[:：]/.exec(plain);
  if (colon !== null && colon.index <= 60) {
    const before = plain.slice(0, colon.index).trim();
    const words = before.replace(/[\s-]+re$/, "");
    return (
      BEGINNINGS.includes(words) || ((isAnswer || words !== before) && DOUBTFUL.includes(words))
    );
  }
  const whole = plain.replace(/[’']/g, "").replace(/[.!\s]+$/, "");
  return isAnswer && [...WHOLE, ...BEGINNINGS, ...DOUBTFUL].includes(whole);
}
