/** Mails that come to return paths and are no bounces, each as its header lines, an empty line, and its text. */
const DAEMON = "From: Mail Delivery System <mailer-daemon@foreign.example>";
const PERSON = "From: Halim Brandt <halim.brandt@oakmail.example>";

const dsn = (action: string, status: string, people: string): string[] => [
  DAEMON,
  "Subject: Delivery Status Notification",
  "MIME-Version: 1.0",
  'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
  "",
  "--b",
  "Content-Type: text/plain; charset=utf-8",
  "",
  people,
  "--b",
  "Content-Type: message/delivery-status",
  "",
  "Reporting-MTA: dns; foreign.example",
  "",
  "Final-Recipient: rfc822; halim.brandt@oakmail.example",
  `Action: ${action}`,
  `Status: ${status}`,
  "--b--",
];
const receipt = (kind: string): string[] => [
  PERSON,
  `Subject: ${kind}: Rehearsal moved`,
  "MIME-Version: 1.0",
  'Content-Type: multipart/report; report-type=disposition-notification; boundary="b"',
  "",
  "--b",
  "Content-Type: text/plain",
  "",
  "Your message was displayed on 24 November. This is no guarantee that it was understood.",
  "--b",
  "Content-Type: message/disposition-notification",
  "",
  "Final-Recipient: rfc822;halim.brandt@oakmail.example",
  "Disposition: automatic-action/MDN-sent-automatically; displayed",
  "--b--",
];
const late = (subject: string, ...text: string[]): string[] => [
  "Return-Path: <>",
  DAEMON,
  `Subject: ${subject}`,
  "Content-Type: text/plain; charset=utf-8",
  "",
  ...text,
];
const away = (subject: string, ...text: string[]): string[] => [
  "Return-Path: <>",
  PERSON,
  `Subject: ${subject}`,
  "Auto-Submitted: auto-replied",
  "Content-Type: text/plain; charset=utf-8",
  "",
  ...text,
];
/** Without a field that says so. */
const plainlyAway = (subject: string, ...text: string[]): string[] => [
  PERSON,
  `Subject: ${subject}`,
  "Content-Type: text/plain; charset=utf-8",
  "",
  ...text,
];

export const NOT_RETURNED: Readonly<Record<string, string[]>> = {
  "a report of a delay": dsn("delayed", "4.4.1", "Your mail has not been delivered yet."),
  "a report of a delay with a reason for good": dsn("delayed", "5.1.1", "user unknown, so far"),
  "a report of arrival": dsn("delivered", "2.1.5", "Your message was successfully delivered."),
  "a report of handing on": dsn("relayed", "2.0.0", "No further notices can be given."),
  "a report of an expanded list": dsn("expanded", "2.0.0", "It went to a list of addresses."),
  "a read receipt": receipt("Read"),
  "a German read receipt": receipt("Gelesen"),
  "a late mail, in English": late(
    "Warning: message delayed 24 hours",
    "A message that you sent has not yet been delivered to one or more recipients.",
    "The reason is: connection timed out. Delivery attempts will continue for 3 days.",
    "You do not need to take any action.",
  ),
  "a late mail, with a transcript": late(
    "Warning: could not send message for past 4 hours",
    "    **********************************************",
    "    **      THIS IS A WARNING MESSAGE ONLY      **",
    "    **  YOU DO NOT NEED TO RESEND YOUR MESSAGE  **",
    "    **********************************************",
    "   ----- The following addresses had transient non-fatal errors -----",
    "<halim.brandt@oakmail.example>",
    "   ----- Transcript of session follows -----",
    "451 4.4.1 reply: read error from mx.oakmail.example",
  ),
  "a late mail, in German": late(
    "Ihre Nachricht verzögert sich",
    "Die Nachricht konnte noch nicht zugestellt werden. Es wird weiter versucht.",
  ),
  "a late mail, in French": late(
    "Remise différée",
    "Votre message n'a pas encore été remis. Le serveur continuera à essayer pendant 2 jours.",
  ),
  "a late mail, in Spanish": late(
    "Entrega retrasada",
    "El mensaje todavía no se ha podido entregar. Se seguirá intentando.",
  ),
  "a late mail, in Italian": late(
    "Consegna ritardata",
    "Il messaggio non è stato ancora consegnato. Verranno effettuati altri tentativi.",
  ),
  "a late mail, in Polish": late(
    "Opóźnienie w dostarczeniu",
    "Wiadomość nie została jeszcze dostarczona. Próby będą kontynuowane.",
  ),
  "a late mail, in Dutch": late(
    "Vertraging bij bezorging",
    "Uw bericht is nog niet bezorgd. We blijven het proberen.",
  ),
  "a late mail, in Russian": late(
    "Доставка письма задерживается",
    "Письмо пока не доставлено. Сервер продолжит попытки.",
  ),
  "a late mail, in Turkish": late(
    "Teslimat gecikti",
    "İletiniz henüz teslim edilemedi. Denemeye devam edilecek.",
  ),
  "a late mail that will be tried": late(
    "Delivery incomplete",
    "There was a temporary problem delivering your message to halim.brandt@oakmail.example.",
    "We will retry for 46 more hours. You'll be notified if the delivery fails permanently.",
  ),
  "away, in English": away(
    "Automatic reply: Rehearsal",
    "I'm away. My mailbox is full of letters.",
  ),
  "away, in German": away("Automatische Antwort: Probe", "Ich bin nicht erreichbar."),
  "away, in French": away("Réponse automatique", "Je suis absent, votre message n'est pas lu."),
  "away, in Spanish": away("Respuesta automática", "Estoy fuera; el buzón no se lee."),
  "away, in Ukrainian": away("Автоматична відповідь", "Мене немає на роботі."),
  "away, in Arabic": away("رد تلقائي", "أنا خارج المكتب"),
  "away by the subject alone": plainlyAway("Out of Office: Rehearsal", "Back on Monday."),
  "away by the German subject alone": plainlyAway("Abwesenheitsnotiz: Probe", "Bis Montag weg."),
  "away by the Dutch subject alone": plainlyAway("Afwezig: Repetitie", "Ik ben er maandag weer."),
  "away by the Polish subject alone": plainlyAway("Autoodpowiedź: Próba", "Wrócę w poniedziałek."),
  "away by the Italian subject alone": plainlyAway(
    "Risposta automatica: Prova",
    "Torno lunedì. L'ufficio è chiuso, la casella non è letta.",
  ),
  "away by the Portuguese subject alone": plainlyAway("Resposta automática: Ensaio", "Volto já."),
  "away by the Swedish subject alone": plainlyAway("Autosvar: Repetition", "Åter på måndag."),
  "away by the Turkish subject alone": plainlyAway("Otomatik Yanıt: Prova", "Pazartesi dönerim."),
  "away by the Russian subject alone": plainlyAway("Автоответ: Репетиция", "Буду в понедельник."),
  "away by the Japanese subject alone": plainlyAway("自動応答: リハーサル", "月曜日に戻ります。"),
  "who left, and says who follows": away(
    "I no longer work here",
    "This address is no longer in use. Please write to Mara Olsen instead.",
  ),
  "a challenge": plainlyAway(
    "Please confirm your message",
    "I guard my inbox against unwanted mail. Click the link to prove that you are a person.",
  ),
  "another challenge": plainlyAway(
    "Re: Rehearsal moved [verify]",
    "To deliver your message to Halim, please verify that you are a human sender: visit the link.",
  ),
  "a German challenge": plainlyAway(
    "Bitte bestätigen",
    "Bitte bestätigen Sie als Absender, dass Ihre Nachricht echt ist.",
  ),
  "a ticket": plainlyAway(
    "[#4711] We received your request",
    "Thank you for writing. Your request has been received and will be answered in two days.",
  ),
  "a person who answers": plainlyAway(
    "Re: Rehearsal moved",
    "Is it true that the mail to the Bakers could not be delivered? Their mailbox is full again.",
  ),
  "a person who forwards a bounce": plainlyAway(
    "I got this, what is it?",
    "Hello Ada,",
    "> 550 5.1.1 user unknown",
    "this came to me today.",
  ),
  "held for a moderator": [
    "From: friends-bounces@lists.there.example",
    "Subject: Your message to Friends awaits moderator approval",
    "",
    "The reason it is being held: Post by non-member to a members-only list.",
  ],
};
