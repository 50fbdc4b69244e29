/** What a made returned mail is about: for whom the copy was, and what the far server said (code, status and words in one line). */
export interface Returned {
  to: string;
  reply: string;
}

/** One manner in which mail systems return mail, and the mail that it makes of a reply. Written after the forms that read them. */
export interface System {
  name: string;
  /** The encoding in which it writes, where that hasn't all letters. */
  encoding?: string;
  make(returned: Returned): Buffer;
}

/** Text in an encoding of one octet a letter, by turning the decoder around. */
export function inEncoding(text: string, encoding: string): Buffer {
  const decoder = new TextDecoder(encoding);
  const octets = new Map(
    Array.from({ length: 256 }, (_, octet) => [decoder.decode(Uint8Array.of(octet)), octet]),
  );
  return Buffer.from(Array.from(text, (letter) => octets.get(letter) ?? 0x3f));
}

function quotedPrintable(text: string): string {
  return [...Buffer.from(text)]
    .map((octet) =>
      octet === 10 || octet === 13 || (octet >= 32 && octet < 127 && octet !== 61)
        ? String.fromCharCode(octet)
        : `=${octet.toString(16).toUpperCase().padStart(2, "0")}`,
    )
    .join("")
    .replace(/((?:=[0-9A-F]{2}|[^\r\n=]){60,72})(?=(?:=[0-9A-F]{2}|[^\r\n]))/g, "$1=\r\n");
}

function base64(text: string | Buffer): string {
  return (
    Buffer.from(text)
      .toString("base64")
      .match(/.{1,76}/g) ?? []
  ).join("\r\n");
}

const lines = (...all: string[]): string => all.join("\r\n");
const statusOf = (reply: string): string => /\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(reply)?.[0] ?? "";
const coarse = (reply: string): string => statusOf(reply) || `${/^4/.test(reply) ? 4 : 5}.0.0`;
const HEAD = [
  "From: Mail Delivery Subsystem <mailer-daemon@mx.foreign.example>",
  "To: <mail+b.3f9c@copperwheel.example>",
  "Date: Tue, 24 Nov 2026 07:31:12 +0000",
  "Message-ID: <20261124073112.77@mx.foreign.example>",
  "MIME-Version: 1.0",
];
const COPY = lines(
  "Received: from amigo.copperwheel.example (amigo.copperwheel.example [192.0.2.7])",
  "\tby mx.foreign.example with ESMTPS; Tue, 24 Nov 2026 07:30:58 +0000",
  "From: Ada Lindqvist <ada@copperwheel.example>",
  "To: juggling-one@lists.copperwheel.example",
  "Subject: Rehearsal moved: the mailbox in the lobby is full of costumes",
  "List-Id: Juggling One <juggling-one.lists.copperwheel.example>",
  "Message-ID: <5d1.rehearsal@copperwheel.example>",
);

function plain(subject: string, body: string, fields: readonly string[] = []): Buffer {
  return Buffer.from(
    lines(
      ...HEAD,
      ...fields,
      `Subject: ${subject}`,
      "Content-Type: text/plain; charset=utf-8",
      "Content-Transfer-Encoding: 8bit",
      "",
      body,
      "",
    ),
  );
}

/** A report with a part for people, one for machines and the headers of what came back (RFC 3462). */
function report({
  subject,
  people,
  machine,
  fields = [],
  type = "text/plain; charset=utf-8",
  encoding = "8bit",
  machineType = "message/delivery-status",
}: {
  subject: string;
  people: string;
  machine: readonly string[];
  fields?: readonly string[];
  type?: string;
  encoding?: string;
  machineType?: string;
}): Buffer {
  return Buffer.from(
    lines(
      ...HEAD,
      ...fields,
      "Auto-Submitted: auto-replied",
      `Subject: ${subject}`,
      'Content-Type: multipart/report; report-type=delivery-status; boundary="=_part"',
      "",
      "--=_part",
      `Content-Type: ${type}`,
      `Content-Transfer-Encoding: ${encoding}`,
      "",
      people,
      "--=_part",
      `Content-Type: ${machineType}`,
      "",
      "Reporting-MTA: dns; mx.foreign.example",
      "Arrival-Date: Tue, 24 Nov 2026 07:30:58 +0000",
      "",
      ...machine,
      "",
      "--=_part",
      "Content-Type: text/rfc822-headers",
      "",
      COPY,
      "",
      "--=_part--",
      "",
    ),
  );
}

/** Folds a long field as mail systems do (RFC 5322, section 2.2.3). */
const folded = (text: string): string => text.replace(/(.{50,60}) /g, "$1\r\n    ");

export const SYSTEMS: readonly System[] = [
  {
    name: "a report whose diagnostic code has the whole reply",
    make: ({ to, reply }) =>
      report({
        subject: "Undelivered Mail Returned to Sender",
        people: lines(
          "This is the mail system at host mx.foreign.example.",
          "",
          "I'm sorry to have to inform you that your message could not be delivered to one or",
          "more recipients. It's attached below. For further assistance, please send mail to",
          "postmaster. If you do so, please include this problem report.",
          "",
          `<${to}>: host mx.there.example[198.51.100.4] said: ${folded(reply)} (in reply to RCPT TO command)`,
        ),
        machine: [
          `Final-Recipient: rfc822; ${to}`,
          `Original-Recipient: rfc822;${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          "Remote-MTA: dns; mx.there.example",
          `Diagnostic-Code: smtp; ${folded(reply)}`,
        ],
      }),
  },
  {
    name: "plain words with the failed address in a field",
    make: ({ to, reply }) =>
      plain(
        "Mail delivery failed: returning message to sender",
        lines(
          "This message was created automatically by mail delivery software.",
          "",
          "A message that you sent could not be delivered to one or more of its recipients.",
          "This is a permanent error. The following address(es) failed:",
          "",
          `  ${to}`,
          "    host mx.there.example [198.51.100.4]",
          "    SMTP error from remote mail server after RCPT TO:",
          `    ${reply}`,
          "",
          "------ This is a copy of the message, including all the headers. ------",
          "",
          COPY,
        ),
        [`X-Failed-Recipients: ${to}`, "Auto-Submitted: auto-replied"],
      ),
  },
  {
    name: "a transcript of the session above a report",
    make: ({ to, reply }) =>
      report({
        subject: "Returned mail: see transcript for details",
        people: lines(
          "The original message was received at Tue, 24 Nov 2026 07:30:58 GMT",
          "from amigo.copperwheel.example [192.0.2.7]",
          "",
          "   ----- The following addresses had permanent fatal errors -----",
          `<${to}>`,
          `    (reason: ${reply})`,
          "",
          "   ----- Transcript of session follows -----",
          "... while talking to mx.there.example.:",
          ">>> RCPT To:<" + to + ">",
          `<<< ${reply}`,
        ),
        machine: [
          `Final-Recipient: RFC822; ${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          "Remote-MTA: DNS; mx.there.example",
          `Diagnostic-Code: SMTP; ${reply}`,
          "Last-Attempt-Date: Tue, 24 Nov 2026 07:31:10 GMT",
        ],
      }),
  },
  {
    name: "a first-person apology, address and reason",
    make: ({ to, reply }) =>
      plain(
        "failure notice",
        lines(
          "Hi. This is the mail program at foreign.example.",
          "I'm afraid I wasn't able to deliver your message to the following addresses.",
          "This is a permanent error; I've given up. Sorry it didn't work out.",
          "",
          `<${to}>:`,
          `198.51.100.4 does not like recipient.`,
          `Remote host said: ${reply}`,
          "Giving up on 198.51.100.4.",
          "",
          "--- Below this line is a copy of the message.",
          "",
          COPY,
        ),
      ),
  },
  {
    name: "a page of HTML above a report that says only its status",
    make: ({ to, reply }) =>
      report({
        subject: "Undeliverable: Rehearsal moved",
        type: "text/html; charset=utf-8",
        people: lines(
          "<html><body><p><b>Delivery has failed to these recipients or groups:</b></p>",
          `<p><a href="mailto:${to}">${to}</a><br>`,
          `The server that should take it answered:<br><i>${reply.replaceAll("<", "&lt;")}</i></p>`,
          "<p>Diagnostic information for administrators:<br>Generating server: MX01.foreign.example</p>",
          "</body></html>",
        ),
        machine: [`Final-Recipient: rfc822;${to}`, "Action: failed", `Status: ${coarse(reply)}`],
      }),
  },
  {
    name: "a report in base64 with the address as it was given",
    make: ({ to, reply }) =>
      report({
        subject: "=?UTF-8?B?RGVsaXZlcnkgU3RhdHVzIE5vdGlmaWNhdGlvbiAoRmFpbHVyZSk=?=",
        encoding: "base64",
        people: base64(
          lines(
            "** Message not delivered **",
            "",
            `Your message wasn't delivered to ${to}.`,
            "",
            "The response from the remote server was:",
            reply,
          ),
        ),
        fields: [`X-Failed-Recipients: ${to}`],
        machine: [
          `Final-Recipient: rfc822; ${to.toUpperCase()}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          `Diagnostic-Code: smtp; ${reply}`,
        ],
      }),
  },
  {
    name: "quoted-printable with words cut at line ends",
    make: ({ to, reply }) =>
      report({
        subject: "DELIVERY FAILURE: Rehearsal moved",
        encoding: "quoted-printable",
        people: quotedPrintable(
          lines(
            "Your document:  Rehearsal moved",
            `could not be delivered to:   ${to}`,
            `because: ${reply}`,
          ),
        ),
        machine: [`Final-Recipient: rfc822;${to}`, "Action: failed", `Status: 5.0.0`],
      }),
  },
  {
    name: "labelled lines without MIME",
    make: ({ to, reply }) =>
      plain(
        "Undeliverable mail",
        lines(
          "Failed to deliver your message",
          "",
          `Recipient: ${to}`,
          `Reason: ${reply}`,
          "Host: mx.there.example",
          "",
          "Original headers follow:",
          COPY,
        ),
      ),
  },
  {
    name: "German words above the quoted reply",
    make: ({ to, reply }) =>
      plain(
        "=?utf-8?Q?Nachricht_konnte_nicht_zugestellt_werden?=",
        lines(
          "Guten Tag,",
          "",
          "leider konnte Ihre Nachricht an folgende Empfänger nicht zugestellt werden:",
          "",
          `  ${to}`,
          "",
          "Der Server des Empfängers hat geantwortet:",
          `  ${reply}`,
          "",
          "Die ursprüngliche Nachricht:",
          COPY,
        ),
        ["Return-Path: <>"],
      ),
  },
  {
    name: "French words above a report",
    make: ({ to, reply }) =>
      report({
        subject: "=?iso-8859-1?Q?=C9chec_de_la_remise?=",
        people: lines(
          "Bonjour,",
          "Votre message n'a pas pu être remis à un ou plusieurs destinataires.",
          `<${to}> : ${reply}`,
        ),
        machine: [
          `Original-Recipient: rfc822;${to}`,
          `Final-Recipient: rfc822;${to}`,
          "Action: Failed",
          `Status: ${coarse(reply)} (permanent failure)`,
          `Diagnostic-Code: X-Local; ${reply}`,
        ],
      }),
  },
  {
    name: "Russian words in KOI8-R",
    encoding: "koi8-r",
    make: ({ to, reply }) =>
      Buffer.concat([
        Buffer.from(
          lines(
            ...HEAD,
            "Return-Path: <>",
            "Subject: Undelivered mail",
            "Content-Type: text/plain; charset=koi8-r",
            "Content-Transfer-Encoding: 8bit",
            "",
            "",
          ),
        ),
        inEncoding(
          lines("Ваше письмо не было доставлено.", `Адресат: ${to}`, `Ответ сервера: ${reply}`, ""),
          "koi8-r",
        ),
      ]),
  },
  {
    name: "a report of an internationalised address (RFC 6533)",
    make: ({ to, reply }) =>
      report({
        subject: "Delivery Status Notification (Failure)",
        people: lines(`Delivery to ${to} failed.`, "", reply),
        machineType: "message/global-delivery-status; charset=utf-8",
        machine: [
          `Final-Recipient: utf-8; ${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          `Diagnostic-Code: smtp; ${reply}`,
        ],
      }),
  },
  {
    name: "a report within a mail of several parts",
    make: ({ to, reply }) =>
      Buffer.from(
        lines(
          ...HEAD,
          "Subject: Mail System Error - Returned Mail",
          'Content-Type: multipart/mixed; boundary="outer"',
          "",
          "--outer",
          'Content-Type: multipart/report; report-type=delivery-status; boundary="inner"',
          "",
          "--inner",
          "Content-Type: text/plain",
          "",
          "This message was undeliverable due to the following reason:",
          "",
          reply,
          "",
          `  <${to}>`,
          "",
          "--inner",
          "Content-Type: message/delivery-status",
          "",
          "Reporting-MTA: dns; relay.foreign.example",
          "",
          `Final-Recipient: rfc822; <${to}>`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          "",
          "--inner--",
          "--outer",
          "Content-Type: text/plain",
          "",
          "-- ",
          "This mail was scanned. Unsolicited mail? Tell us.",
          "--outer--",
          "",
        ),
      ),
  },
  {
    name: "a report about two, of whom the other was reached",
    make: ({ to, reply }) =>
      report({
        subject: "Delivery report",
        people: lines("One of the copies could not be delivered.", "", `${to}: ${reply}`),
        machine: [
          "Final-Recipient: rfc822; somebody.else@there.example",
          "Action: relayed",
          "Status: 2.0.0",
          "",
          `Final-Recipient: rfc822; ${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          `Diagnostic-Code: smtp; ${reply}`,
        ],
      }),
  },
  {
    name: "several lines of a reply, each with its code",
    make: ({ to, reply }) => {
      const code = /^\d{3}/.exec(reply)?.[0];
      const words = reply.replace(/^\d{3}[ -]/, "");
      const half = words.indexOf(" ", Math.floor(words.length / 2));
      const parts = half < 0 ? [words] : [words.slice(0, half), words.slice(half + 1)];
      const quoted =
        code === undefined
          ? [reply]
          : parts.map((part, at) => `${code}${at < parts.length - 1 ? "-" : " "}${part}`);
      return report({
        subject: "Undeliverable: Rehearsal moved",
        people: lines(
          "Delivery to the following recipients failed.",
          "",
          `       ${to}`,
          "",
          ...quoted,
        ),
        machine: [
          `Final-Recipient: rfc822;${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          `Diagnostic-Code: smtp;${quoted.join("\r\n  ")}`,
        ],
      });
    },
  },
  {
    name: "HTML alone, without a report",
    make: ({ to, reply }) =>
      Buffer.from(
        lines(
          ...HEAD,
          "Return-Path: <>",
          "Subject: Delivery failure",
          "Content-Type: text/html; charset=utf-8",
          "Content-Transfer-Encoding: 8bit",
          "",
          "<html><head><style>p { color: #333 }</style></head><body>",
          `<p>We couldn't deliver your message to <b>${to.replace("@", "&#64;")}</b>.</p>`,
          `<table><tr><td>Answer of the server</td><td>${reply.replaceAll("<", "&lt;")}</td></tr></table>`,
          "</body></html>",
        ),
      ),
  },
  {
    name: "a machine part written into the text",
    make: ({ to, reply }) =>
      plain(
        "Delivery Notification: Delivery has failed",
        lines(
          "This report relates to a message you sent.",
          "",
          "Your message cannot be delivered to the following recipients:",
          "",
          `  Recipient address: ${to}`,
          `  Reason: ${reply}`,
          "",
          "Reporting-MTA: dns;mx.foreign.example",
          "",
          `Final-recipient: rfc822;${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
        ),
        ["Return-Path: <>"],
      ),
  },
  {
    name: "Spanish words and the quoted reply",
    make: ({ to, reply }) =>
      plain(
        "Mensaje no entregado",
        lines(
          "Lo sentimos, no se ha podido entregar su mensaje a la siguiente dirección:",
          `    ${to}`,
          "Respuesta del servidor remoto:",
          `    ${reply}`,
        ),
        ["Return-Path: <>"],
      ),
  },
  {
    name: "Japanese words above the quoted reply",
    make: ({ to, reply }) =>
      plain(
        "=?utf-8?B?6YWN5L+h44Gn44GN44G+44Gb44KT44Gn44GX44Gf?=",
        lines(
          "以下の宛先にメールを配信できませんでした。",
          `宛先: ${to}`,
          `サーバの応答: ${reply}`,
        ),
        ["Return-Path: <>"],
      ),
  },
  {
    name: "a report in the relay's own voice",
    make: ({ to, reply }) =>
      report({
        subject: "Delivery Status Notification (Failure)",
        people: lines(
          "This is an automatically generated Delivery Status Notification.",
          "",
          "Delivery to the following recipients failed.",
          "",
          `       ${to}`,
        ),
        machine: [
          `Final-Recipient: rfc822;${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          `Diagnostic-Code: smtp;${reply}`,
          "Final-Log-ID: 77.3f9c.0",
        ],
      }),
  },
  {
    name: "an old report by name and number",
    make: ({ to, reply }) =>
      plain(
        "Mail could not be delivered",
        lines(
          "****** Message from mail gateway ******",
          "",
          "The mail gateway received a mail from you which could not be delivered.",
          `The following recipients were affected: `,
          `    ${to}`,
          `The following error occurred: ${reply}`,
          "",
          "----- Original message header -----",
          COPY,
        ),
        ["Return-Path: <>", "Precedence: junk"],
      ),
  },
  {
    name: "Polish words above a report in quoted-printable",
    make: ({ to, reply }) =>
      report({
        subject: "=?utf-8?Q?Nie_uda=C5=82o_si=C4=99_dor=C4=99czy=C4=87_wiadomo=C5=9Bci?=",
        encoding: "quoted-printable",
        people: quotedPrintable(
          lines("Nie udało się dostarczyć wiadomości.", `${to}`, `Odpowiedź serwera: ${reply}`),
        ),
        machine: [
          `Final-Recipient: rfc822; ${to}`,
          "Action: failed",
          "Status: 5.0.0",
          `Diagnostic-Code: smtp; ${reply}`,
        ],
      }),
  },
  {
    name: "five days tried, the last reply below",
    make: ({ to, reply }) =>
      report({
        subject: "Undelivered Mail Returned to Sender",
        people: lines(
          "Your message has been in the queue for 5 days and could not be delivered.",
          "It will not be retried.",
          `<${to}>: ${reply}`,
        ),
        machine: [
          `Final-Recipient: rfc822; ${to}`,
          "Action: failed",
          `Status: ${coarse(reply)}`,
          `Diagnostic-Code: smtp; ${reply}`,
          "Will-Retry-Until: Tue, 24 Nov 2026 07:30:58 +0000",
        ],
      }),
  },
  {
    name: "Turkish words in Windows-1254",
    encoding: "windows-1254",
    make: ({ to, reply }) =>
      Buffer.concat([
        Buffer.from(
          lines(
            ...HEAD,
            "Return-Path: <>",
            "Subject: Undeliverable",
            "Content-Type: text/plain; charset=windows-1254",
            "Content-Transfer-Encoding: 8bit",
            "",
            "",
          ),
        ),
        inEncoding(
          lines(`İletiniz teslim edilemedi: ${to}`, `Sunucunun yanıtı: ${reply}`, ""),
          "windows-1254",
        ),
      ]),
  },
];
