import { describe, expect, test } from "vitest";
import { splitMessage } from "../splitMessage";
import { humanLines, humanText, tellingLine } from "./humanPart";
import { looksReturned } from "./looksReturned";

const PERSON = "mo@lettr.example";

/** A mail without fields for machines. */
function mail(
  subject: string,
  { text = "", from = PERSON, returnPath = from }: Partial<Record<string, string>> = {},
) {
  const split = splitMessage(
    new TextEncoder().encode(`From: ${from}\r\nSubject: x\r\n\r\n${text}`),
  );
  return { split, returnPath, subject, text, report: "" };
}

describe("a mail that says that another came back", () => {
  test.each([
    "Undelivered Mail Returned to Sender",
    "Your message couldn't be delivered",
    "We were unable to deliver your message to ana@oakmail.example",
    "Mail delivery failed: returning message",
    "Delivery Status Notification (Failure)",
    "failure notice",
    "Message bounced",
    "Il messaggio non è stato recapitato",
    "Nie udało się dostarczyć wiadomości",
    "Din mail blev ikke leveret",
    "Kan niet worden bezorgd",
    "Повідомлення не було доставлено",
    "Message n'a pas pu être distribué",
    "Unzustellbar: Schuhe",
    "Ihre Nachricht konnte nicht zugestellt werden",
    "Zustellung fehlgeschlagen",
    "Votre message n'a pas été remis",
    "Échec de la remise",
    "Avis de non-remise",
    "No se ha podido entregar su mensaje",
    "Mensaje no entregado",
    "Fallo en la entrega",
    "Mancato recapito",
    "Impossibile recapitare il messaggio",
    "Falha na entrega",
    "Sua mensagem não foi entregue",
    "Onbestelbaar: schoenen",
    "Uw bericht is niet bezorgd",
    "Zwrot wiadomości",
    "Wiadomość nie została dostarczona",
    "İletiniz teslim edilemedi",
    "Ваше письмо не было доставлено",
    "Не удалось доставить сообщение",
    "Не вдалося доставити повідомлення",
    "Zprávu nelze doručit",
    "Meddelandet kunde inte levereras",
    "Viestiä ei voitu toimittaa",
    "Kézbesíthetetlen üzenet",
    "Mesajul nu a fost livrat",
    "Το μήνυμα δεν παραδόθηκε",
    "メールを配信できませんでした",
    "邮件无法投递",
    "郵件無法投遞",
    "메일을 배달하지 못했습니다",
    "تعذر تسليم رسالتك",
    "ההודעה לא נמסרה",
    "Thư của bạn không thể gửi",
    "Pesan Anda tidak terkirim",
  ])("is known by its subject: %s", (subject) => {
    expect(looksReturned(mail(subject))).toBe(true);
    expect(looksReturned(mail("Hello", { returnPath: "", text: `Hello.\n\n${subject}\n` }))).toBe(
      true,
    );
  });

  test.each([
    "Shoes",
    "Delivery of the costumes on Monday",
    "Ihre Bestellung ist da",
    "Livraison des chaussures",
    "Wir stellen die Bühne zu",
    "Доставка костюмів",
    "No olvides la entrega del vestuario",
    "Não esqueça de entregar os figurinos",
    "Non dimenticate le scarpe consegnate ieri",
    "Niet vergeten: kostuums worden maandag bezorgd",
    "Nie zapomnijcie dostarczyć kostiumów",
    "Не забудьте доставить костюмы",
    "Glöm inte att skorna levereras",
    "Nu uitați costumele livrate ieri",
    "N'oubliez pas le costume remis hier",
    "Undelighted",
    "",
  ])("is told from any other: %j", (subject) => {
    expect(looksReturned(mail(subject))).toBe(false);
    expect(looksReturned(mail(subject, { returnPath: "", text: "See you on Monday." }))).toBe(
      false,
    );
  });

  test.each([
    "Re: Undelivered Mail Returned to Sender",
    "AW: Unzustellbar: Schuhe",
    "Fwd: Delivery failure",
    "SV: Meddelandet kunde inte levereras",
    "RV : Mensaje no entregado",
  ])("isn't one that somebody answers or hands on: %s", (subject) => {
    expect(looksReturned(mail(subject))).toBe(false);
    expect(looksReturned(mail(subject, { from: "MAILER-DAEMON@mx.example" }))).toBe(true);
  });

  test.each([
    ["MAILER-DAEMON@mx.example", true],
    ["mailerdaemon@mx.example", true],
    ["Mail Delivery <md@mx.example>", true],
    ["postmaster@mx.example", true],
    ["Mail Administrator <ma@mx.example>", true],
    ["noreply-delivery@mx.example", true],
    ["mo@lettr.example", false],
    ["poster@lettr.example", false],
  ])("is looked through where a mail system wrote it: %s", (from, isOne) => {
    const text = "Sorry.\nYour mail could not be delivered to one of its recipients.";
    expect(looksReturned(mail("Your mail", { from, text }))).toBe(isOne);
  });

  test("is looked at in its first lines alone", () => {
    const text = (before: number): string =>
      `${Array.from({ length: before }, (_, at) => `line ${at}`).join("\n")}\nIt could not be delivered.`;
    expect(looksReturned(mail("x", { returnPath: "", text: text(11) }))).toBe(true);
    expect(looksReturned(mail("x", { returnPath: "", text: text(12) }))).toBe(false);
  });
});

describe("the part of a returned mail for people", () => {
  test.each([
    "Reporting-MTA: dns; mx.example",
    "Final-Recipient: rfc822; ana@oakmail.example",
    "Action : failed",
    "Received: from mx.example",
    "--- Below this line is a copy of the message.",
    "------ This is a copy of your message, including all the headers. ------",
    "-----Original Message-----",
    "--- begin forwarded ---",
    "Original message headers:",
    "The original message:",
    "Die ursprüngliche Nachricht",
    "Ursprüngliche Nachricht lautete",
    "Message d'origine",
    "Mensaje original",
    "Messaggio originale",
  ])("ends at %s", (line) => {
    expect(humanText(`No such user.\n${line}\nDear families,`)).toBe("No such user.");
  });

  test.each([
    "The action: none",
    "We received it: yes",
    "The original costume is lost.",
    "A message for you",
    "-- ",
    "- copy of a key",
  ])("doesn't end at %j", (line) => {
    expect(humanLines(`No such user.\n${line}\nGood bye.`)).toEqual([
      "No such user.",
      line.trim(),
      "Good bye.",
    ]);
  });

  test.each([
    "> Dear families,",
    "| Dear families,",
    "Subject: Shoes",
    "Betreff: Schuhe",
    "件名：靴",
  ])("leaves out what repeats the mail: %s", (line) => {
    expect(humanLines(`First.\r\n${line}\r\n\r\nLast.`)).toEqual(["First.", "Last."]);
  });

  test("is no longer than fifty lines of four hundred characters", () => {
    const lines = humanText(Array.from({ length: 80 }, () => "x".repeat(450)).join("\n")).split(
      "\n",
    );
    expect(lines).toHaveLength(50);
    expect(new Set(lines.map(({ length }) => length))).toEqual(new Set([400]));
    expect(humanText("x\n".repeat(60_000)).length).toBeLessThan(120);
  });

  test.each([
    ["Hello.\nThe mailbox is full.\nBye.", "The mailbox is full."],
    ["Hello.\n550 5.1.1 User unknown\n\nThe mailbox is full.", "550 5.1.1 User unknown"],
    ["550 Sorry\n\nThe mailbox is full.", undefined],
    ["Hello.\nGood bye.", undefined],
    ["The mailbox of this recipient\nis full", "The mailbox of this recipient is full"],
    ["", undefined],
  ])("has one line that says why: %j", (text, line) => {
    expect(tellingLine(text)).toBe(line);
  });
});
