import type { System } from "./systems";

/** Manners of returning mail that were written when the forms were done, to see how they do with what they have not met. */
const lines = (...all: string[]): string => all.join("\n");
const statusOf = (reply: string): string => /\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(reply)?.[0] ?? "";
const mail = (head: readonly string[], body: string): Buffer =>
  Buffer.from(`${lines(...head, "", body)}\n`.replaceAll("\n", "\r\n"));
const QUOTED = lines(
  "Subject: Re: your mailbox is full of surprises",
  "From: ada@copperwheel.example",
  "To: juggling-one@lists.copperwheel.example",
  "",
  "Dear all, nobody may leave before the user unknown to us has signed.",
);
const SUBTYPE = 'multipart/report; report-type="delivery-status"; boundary=xx';

export const LATER_SYSTEMS: readonly System[] = [
  {
    name: "an alternative of text and HTML that tell the same, then the report",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: postmaster@there.example",
          "Subject: Nicht zustellbar: Probe verlegt",
          `Content-Type: ${SUBTYPE}`,
          "MIME-Version: 1.0",
        ],
        lines(
          "--xx",
          "Content-Type: multipart/alternative; boundary=yy",
          "",
          "--yy",
          "Content-Type: text/plain; charset=utf-8",
          "",
          `Ihre Nachricht an ${to} konnte nicht zugestellt werden.`,
          "",
          `Meldung des fernen Systems: '${reply}'`,
          "",
          "--yy",
          "Content-Type: text/html; charset=utf-8",
          "",
          `<p>Ihre Nachricht konnte nicht zugestellt werden.</p>`,
          "--yy--",
          "--xx",
          "Content-Type: message/delivery-status",
          "",
          "Reporting-MTA: dns;there.example",
          "Received-From-MTA: dns;amigo.copperwheel.example",
          "",
          `Final-Recipient: rfc822;${to}`,
          "Action: failed",
          `Status: ${statusOf(reply) || "5.0.0"}`,
          `Diagnostic-Code: smtp;${reply}`,
          "",
          "--xx",
          "Content-Type: message/rfc822",
          "",
          QUOTED,
          "--xx--",
        ),
      ),
  },
  {
    name: "one line for each address, reason after a dash",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: Mail Administrator <postmaster@isp.example>",
          "Subject: Mail System Error - Returned Mail",
        ],
        lines(
          "This Message was undeliverable due to the following reason:",
          "",
          `${to} - ${reply}`,
          "",
          "Please reply to <postmaster@isp.example> if you feel this message to be in error.",
          "",
          "--- Original message ---",
          QUOTED,
        ),
      ),
  },
  {
    name: "the reason above, the machine part without a diagnostic code, a long footer",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: MAILER-DAEMON@isp.example",
          "Subject: Delivery failure",
          `Content-Type: ${SUBTYPE}`,
          "MIME-Version: 1.0",
        ],
        lines(
          "--xx",
          "Content-Type: text/plain; charset=utf-8",
          "",
          "Hello,",
          "",
          "this is an automatic message of our mail service, so please don't answer it.",
          `The mail to ${to} has been rejected with`,
          "",
          `    ${reply}`,
          "",
          "If the address is right, please ask our help desk. Our offices are closed on weekends.",
          "Large files, spam and viruses are reported on our status page.",
          "--xx",
          "Content-Type: message/delivery-status",
          "",
          "Reporting-MTA: dns; out.isp.example",
          "",
          `Original-Recipient: rfc822;${to}`,
          `Final-Recipient: rfc822;forwarded-elsewhere@inside.example`,
          "Action: failed",
          `Status: ${statusOf(reply) || "5.0.0"}`,
          "--xx--",
        ),
      ),
  },
  {
    name: "French HTML in a table",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: Service de messagerie <mailer-daemon@courrier.example>",
          "Subject: =?utf-8?Q?Votre_message_n=27a_pas_=C3=A9t=C3=A9_remis?=",
          "Content-Type: text/html; charset=utf-8",
          "MIME-Version: 1.0",
        ],
        lines(
          "<html><body><h2>Votre message n'a pas été remis</h2><table>",
          `<tr><th>Destinataire</th><td>${to}</td></tr>`,
          `<tr><th>Raison</th><td>${reply.replaceAll("<", "&lt;").replaceAll(">", "&gt;")}</td></tr>`,
          "</table><p>Ceci est un message automatique.</p></body></html>",
        ),
      ),
  },
  {
    name: "XML-like labels of a gateway",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: gateway@filter.example",
          "Subject: Message could not be delivered",
        ],
        lines(
          "A message you sent could not be delivered.",
          "",
          `Envelope recipient . . . : ${to}`,
          `Sending host  . . . . . : 192.0.2.7`,
          `Server response  . . . . : ${reply}`,
          `Time of event  . . . . . : 24 Nov 2026 07:31:12`,
        ),
      ),
  },
  {
    name: "Italian words, the reply in brackets",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: Posta <postmaster@posta.example>",
          "Subject: Mancato recapito della posta",
          "Content-Type: text/plain; charset=utf-8",
        ],
        lines(
          "Gentile utente,",
          "",
          "il messaggio non è stato consegnato al seguente indirizzo:",
          `- ${to} (${reply})`,
          "",
          "Distinti saluti",
        ),
      ),
  },
  {
    name: "the reply far below an explanation",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: Mail Delivery <mailer-daemon@big.example>",
          "Subject: Your message wasn't delivered",
          "X-Failed-Recipients: " + to,
        ],
        lines(
          "Something went wrong on the way.",
          "",
          `Your message to ${to} did not arrive.`,
          "",
          "What you can do: check the spelling, wait a while, or ask the person by telephone.",
          "",
          "Technical details",
          "-----------------",
          "Server: mx.there.example (198.51.100.4), port 25, after RCPT TO",
          `Answer: ${reply}`,
        ),
      ),
  },
  {
    name: "Ukrainian words above a report without words",
    make: ({ to, reply }) =>
      mail(
        [
          "Return-Path: <>",
          "From: =?utf-8?B?0J/QvtGI0YLQsA==?= <mailer-daemon@poshta.example>",
          "Subject: =?utf-8?B?0J3QtdC80L7QttC70LjQstC+INC00L7RgdGC0LDQstC40YLQuCDQu9C40YHRgg==?=",
          `Content-Type: ${SUBTYPE}`,
          "MIME-Version: 1.0",
        ],
        lines(
          "--xx",
          "Content-Type: text/plain; charset=utf-8",
          "Content-Transfer-Encoding: 8bit",
          "",
          "Вітаємо!",
          `Ваш лист для ${to} повернувся.`,
          `Причина: ${reply}`,
          "--xx",
          "Content-Type: message/delivery-status",
          "Content-Transfer-Encoding: base64",
          "",
          Buffer.from(
            `Reporting-MTA: dns; poshta.example\r\n\r\nFinal-Recipient: rfc822; ${to}\r\nAction: failed\r\nStatus: ${statusOf(reply) || "5.0.0"}\r\n`,
          ).toString("base64"),
          "--xx--",
        ),
      ),
  },
];
