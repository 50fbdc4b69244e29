import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { splitMessage } from "../splitMessage";
import type { BounceSort } from "./form";
import { refusalIn } from "./refusalIn";
import { sortBounce } from "./sortBounce";
import { sortOf } from "./sortOf";

/** Reasons as many systems give them, with the code and status before them where there are any. */
const REASONS: readonly [BounceSort, ...string[]][] = [
  [
    "no mailbox",
    "550 5.7.1 no such user a.b@oakmail.example",
    "550 5.0.0 The account halim.brandt@oakmail.example is not known at this site.",
    "550 5.1.1 <halim@oakmail.example>: Recipient address rejected: User unknown in virtual mailbox table",
    "550-5.1.1 The email account that you tried to reach does not exist. Please try double-checking the recipient's address",
    "550 5.2.1 The account is disabled",
    "550 #5.1.0 Address rejected.",
    "550 5.4.1 Recipient address rejected: Access denied. [mx12.lettr.example]",
    "550 Requested action not taken: mailbox unavailable",
    "550 halim@oakmail.example not listed in Oakmail directory",
    "554 5.7.1 The mailbox of this person has been deactivated",
    "550 5.7.1 Dieser Benutzer existiert nicht mehr",
    "550 Empfängeradresse unbekannt",
    "550 5.0.0 El usuario indicado no existe en este servidor",
    "550 L'adresse indiquée n'existe plus",
    "553 Casella di posta inesistente o disabilitata",
    "550 A conta de destino não existe",
    "550 Deze gebruiker bestaat niet",
    "550 Nie ma takiego użytkownika",
    "550 Böyle bir kullanıcı yok",
    "550 Пользователь не найден",
    "550 Такого користувача не знайдено, адреса недійсна",
    "550 用户不存在",
    "550 宛先のユーザーが見つかりません",
    "550 Sorry, she has left the school; this address is no longer in use",
  ],
  [
    "full",
    "550 5.1.1 halim@oakmail.example mailbox is full",
    "552 5.2.2 The email account that you tried to reach is over quota",
    "554 5.7.1 Quota exceeded (mailbox for user is full)",
    "550 5.0.0 Postfach von halim@oakmail.example ist voll",
    "550 La boîte de réception du destinataire est pleine",
    "552 El buzón del destinatario está lleno",
    "550 A caixa de correio está cheia",
    "552 Skrzynka odbiorcy jest przepełniona",
    "550 Alıcının posta kutusu dolu",
    "550 Почтовый ящик переполнен",
    "452 4.2.2 Mailbox full",
    "550 邮箱已满",
    "552 Requested mail action aborted: exceeded storage allocation",
  ],
  [
    "no domain",
    "Host or domain name not found. Name service error for name=oakmial.example type=AAAA: Host not found",
    "550 5.1.2 Bad destination host 'DNS Hard Error looking up oakmial.example (MX): NXDOMAIN'",
    "smtp; name or service not known",
    "5.4.4 unable to resolve the mail server of oakmial.example",
    "556 5.1.10 Recipient domain has a null MX",
    "550 Unrouteable domain oakmial.example",
    "Die Domain oakmial.example konnte nicht gefunden werden: Domain unbekannt",
    "Le domaine oakmial.example est introuvable",
  ],
  [
    "policy",
    "550 5.7.1 SPF check failed: the sender's domain does not designate 192.0.2.7 as permitted sender",
    "550 5.7.26 Unauthenticated email from copperwheel.example is not accepted due to domain's DMARC policy",
    "554 5.7.1 <halim@oakmail.example>: Relay access denied",
    "550 5.7.1 Unable to relay",
    "550 5.7.25 The sending IP does not have a PTR record",
    "530 5.7.0 Must issue a STARTTLS command first",
    "550 5.7.1 You are not allowed to send to this group",
    "550 5.7.133 Sender not authenticated for group",
    "554 5.4.6 Too many hops, possible mail loop",
  ],
  [
    "unwanted",
    "554 5.7.1 Service unavailable; Client host [192.0.2.7] blocked using a list of bad senders",
    "550 5.7.1 Message rejected due to content filter: looks like spam",
    "550 5.0.0 sender blocked by recipient",
    "554 The reputation of your server is too poor",
    "550 Nachricht als unerwünscht abgelehnt",
    "550 Le message a été classé comme indésirable",
  ],
  [
    "too large",
    "552 5.3.4 Message size exceeds fixed maximum message size",
    "550 5.2.3 the mail is larger than the recipient takes",
    "550 Die Nachricht ist zu groß",
    "552 5.0.0 Your message is too big for this mailbox's owner",
  ],
  [
    "temporary",
    "451 4.7.1 Greylisted, please try again in 300 seconds",
    "421 too many connections, come back later",
    "450 4.1.1 <halim@oakmail.example>: user unknown in relay table",
    "connect to mx.oakmail.example: connection timed out",
    "451 4.3.0 Temporary lookup failure",
  ],
];

/** Reasons that were written after the phrases were, by other turns of speech; most were read right at once. */
const LATER: typeof REASONS = [
  [
    "no mailbox",
    "550 5.1.1 The user you are trying to contact is receiving mail... no: does not have an account here",
    "550 5.1.1 unknown or illegal alias: x@oakmail.example",
    "550 Mailbox not found",
    "550 5.1.1 recipient does not exist here",
    "550 invalid mailbox",
    "550-Callout verification failed: 550 User unknown",
    "550 Address unknown",
    "550 <x@oakmail.example> No such user here",
    "550 unknown user",
    "550 5.1.1 x@oakmail.example: Email address could not be found, or was misspelled (G8)",
    "550 5.1.1 Mailbox does not exist!",
    "511 5.1.1 unknown address",
    "550 User not local",
    "550 this account has been disabled or discontinued [#102]",
    "554 Mailbox disabled for this recipient",
    "550 #5.1.0 Address rejected x@oakmail.example",
    "550 recipient no longer on server: x@oakmail.example",
    "550 5.2.1 The email account that you tried to reach is inactive",
    "553 5.3.0 <x@oakmail.example>... Addressee unknown, relay=[192.0.2.1]",
    "550 unknown email address",
    "550 sorry, this user is no longer employed by our school",
    "Recipient not found in directory",
    "550 5.7.1 user name is unknown",
    "550 account closed by owner",
    "Empfänger nicht gefunden",
    "Die E-Mail-Adresse existiert nicht",
    "Der Empfänger wurde nicht gefunden",
    "El destinatario no fue encontrado",
    "La dirección de correo no es válida",
    "Utilisateur inconnu",
    "Cette boîte aux lettres n'existe pas",
    "L'indirizzo del destinatario non esiste",
    "Utente sconosciuto",
    "O destinatário não foi encontrado",
    "De ontvanger is niet gevonden",
    "Konto nie istnieje",
    "Nieznany odbiorca",
    "Alıcı bulunamadı",
    "Kullanıcı mevcut değil",
    "Получатель не существует",
    "Нет такого пользователя",
    "Адрес не существует",
    "Такої скриньки не існує",
    "Невідомий отримувач",
    "收件人不存在",
    "该邮箱不存在",
    "ユーザーは存在しません",
    "550 5.1.1 we have no one by that name",
    "550 rejected: nobody with this address works here",
    "550 5.1.1 Benutzer ist unbekannt",
    "550 5.1.1 Diese E-Mail-Adresse wird nicht mehr verwendet",
    "550 destinataire invalide",
    "550 Ce compte a été fermé",
    "550 La cuenta de correo que intentó alcanzar no existe",
    "550 indirizzo email non valido",
    "550 usuário inexistente",
    "550 Dit e-mailadres bestaat niet",
    "550 Adres odbiorcy jest nieprawidłowy",
    "550 E-posta adresi geçersiz",
    "550 Учетная запись пользователя отключена",
    "550 Адресата не існує",
    "550 Uživatel neexistuje",
    "550 Mottagaren finns inte",
    "554 5.7.1 That person does not exist on this server",
    "550 The recipient cannot be found",
    "550 mail to this person is not possible: address is dead",
    "550 Verification failed for recipient: no such person at this address",
    "550 5.0.0 Recipient unknown in our directory",
    "550 there is no user called that",
    "550 Unknown local part halim",
    "550 not a known user",
    "550 mailbox has been removed",
    "550 The employee has left the company",
  ],
  [
    "full",
    "552 5.2.2 mailbox size limit exceeded",
    "522 5.2.2 user is over quota",
    "550 Mailbox has exceeded the limit",
    "552 account has reached its storage quota",
    "452 4.2.2 The email account that you tried to reach is over quota",
    "Inbox full",
    "the recipient's inbox is full",
    "user's mailbox has no space left",
    "maximum storage exceeded for this mailbox",
    "Das Postfach ist überfüllt",
    "Der Speicherplatz des Empfängers ist erschöpft",
    "Boîte aux lettres pleine",
    "Buzón lleno",
    "La cuenta ha excedido su cuota",
    "Casella piena",
    "Caixa postal cheia",
    "Mailbox vol",
    "Skrzynka pełna",
    "Posta kutusu dolu",
    "Превышена квота почтового ящика",
    "Скринька одержувача переповнена",
    "552 Quota violation for halim@oakmail.example",
    "552 Message would exceed quota for halim",
    "550 user over quota; cannot receive new mail",
    "the mailbox has reached its maximum size",
    "552 disk quota exceeded",
    "550 Speicher des Postfachs ist voll",
    "550 votre correspondant a dépassé son quota",
    "550 bandeja de entrada llena",
    "550 spazio esaurito nella casella",
    "552 A quota do destinatário foi excedida",
    "550 Postvak van de ontvanger is vol",
    "550 Przekroczono pojemność skrzynki",
    "550 Kota aşıldı",
    "552 У пользователя закончилось место в ящике",
    "552 Квоту скриньки перевищено",
  ],
  [
    "policy",
    "550 5.7.23 The message was rejected because of Sender Policy Framework violation",
    "550 5.7.509 Access denied, sending domain copperwheel.example does not pass DMARC verification",
    "554 5.7.1 Sender address rejected: not logged in",
    "553 sorry, that domain isn't in my list of allowed rcpthosts (#5.7.1)",
    "550 5.7.54 SMTP; Unable to relay recipient in non-accepted domain",
    "554 IP has no reverse DNS",
    "550 Administrative prohibition",
    "550 5.7.1 Delivery not authorized, message refused",
    "550 this group accepts messages only from its members",
    "554 5.7.5 permanent error evaluating DMARC policy",
    "501 5.1.7 Invalid sender address",
    "550 sender verify failed",
    "550 5.7.1 Message failed DKIM check",
    "550 mail from copperwheel.example rejected: SPF fail",
    "554 authentication required to send to this recipient",
    "550 relaying to oakmail.example prohibited by administrator",
    "550 5.7.1 TLS encryption required",
    "550 5.7.124 Sender not in allowed-senders list",
    "550 You do not have permission to submit to this list",
    "554 Invalid HELO",
    "550 Zustellung aus Richtliniengründen abgelehnt",
  ],
  [
    "unwanted",
    "554 Message refused, it looks like unsolicited advertising",
    "550 5.7.350 Remote server returned message detected as spam",
    "550 Rejected: listed in a dnsbl",
    "554 5.7.1 blocked because your ip is on a blacklist",
    "550 High probability of spam",
    "552 5.7.0 This message was blocked because its content presents a potential security issue",
    "550 5.7.511 Access denied, banned sender [192.0.2.1]",
    "554 5.7.1 Message cannot be accepted, spam rejection",
    "550 Your IP has poor reputation",
    "550 E-Mail abgelehnt: Spamverdacht",
    "550 Mail classified as spam",
    "550 5.7.1 Mail contains a virus",
    "554 Message rejected: your server is on our blocklist",
    "550 Correo rechazado por ser spam",
    "550 Messaggio rifiutato come posta indesiderata",
    "550 письмо похоже на спам",
    "550 This mail looks like phishing",
  ],
  [
    "no domain",
    "Host unknown (Name server: oakmial.example: host not found)",
    "5.1.2 The recipient's domain does not exist",
    "no MX record for oakmial.example",
    "Unrouteable address: all relevant MX records point to non-existent hosts",
    "550 5.1.2 domain not found",
    "DNS server returned answer with no data",
    "Domain name not found",
    "I couldn't find any host named oakmial.example",
    "CNAME lookup failed",
    "Unable to find MX for domain",
    "all hosts for oakmial.example have been failing... lookup of domain failed",
    "Kein Mailserver für die Domain gefunden",
    "El dominio del destinatario no existe",
    "Il dominio non esiste",
    "Домен не найден",
    "DNS lookup for oakmial.example failed: NXDOMAIN",
    "No route to host: the domain could not be resolved",
    "The domain name oakmial.example is not registered",
    "Le serveur de messagerie du domaine est introuvable",
    "De domeinnaam bestaat niet",
    "Alan adı bulunamadı",
    "A domínio não existe",
    "Die Domäne existiert nicht",
  ],
  [
    "too large",
    "552 message exceeds maximum fixed size",
    "523 the message is too large for the recipient",
    "550 5.3.4 Your message exceeded size limits",
    "552 5.2.3 Message size larger than allowed",
    "the total size of the attachments is too big",
    "El mensaje es demasiado grande",
    "Wiadomość jest zbyt duża",
    "Размер письма превышает допустимый",
    "552 Your mail is larger than we accept",
    "message too big",
    "552 5.3.4 max message size exceeded",
    "La taille du message dépasse la limite",
    "Das Mail ist zu gross",
    "Il messaggio è troppo grande",
    "O tamanho da mensagem excede o limite",
  ],
  [
    "temporary",
    "421 4.7.28 Our system has detected an unusual rate of mail originating from your IP address. To protect our users from spam, mail has been temporarily rate limited.",
    "450 4.7.1 Client host rejected: cannot find your hostname, [192.0.2.7]",
    "451 4.1.8 Domain of sender address does not resolve",
    "451 come back in five minutes",
    "421 Service not available, closing channel",
    "450 mailbox busy",
    "The server is temporarily unable to take mail",
    "452 too many recipients",
    "454 TLS not available due to temporary reason",
  ],
];

function refused(reason: string) {
  const code = /^([245]\d\d)[ -]/.exec(reason)?.[1];
  const status = /(?:^|\s|#)([245]\.\d{1,3}\.\d{1,3})/.exec(reason.slice(0, 60))?.[1];
  return { code: code === undefined ? undefined : Number(code), status, words: reason };
}

describe("reasons as mail systems give them", () => {
  test.each(
    [...REASONS, ...LATER].flatMap(([sort, ...reasons]) => reasons.map((reason) => [sort, reason])),
  )("%s: %s", (sort, reason) => {
    expect(sortOf(refused(reason))).toBe(sort);
  });
});

/** The replies of replies.txt, by what they mean. */
function repliesIn(text: string): [string, string][] {
  return text.split("\n[").flatMap((part) => {
    const [kind = "", ...lines] = part.replace(/^\[/, "").split("\n");
    return lines
      .filter((line) => /^[^;#]/.test(line))
      .map((line): [string, string] => [kind.replace("]", ""), line]);
  });
}

describe("replies of mail systems in many languages", () => {
  const replies = repliesIn(readFileSync(new URL("replies.txt", import.meta.url), "utf8"));

  test("are many", () => {
    expect(replies.length).toBeGreaterThan(550);
  });

  test.each(replies)("%s: %s", (sort, reply) => {
    expect(sortOf({ ...refusalIn(reply), words: reply })).toBe(sort);
  });
});

/** A report for machines below a part for people, as it arrives. */
function report(text: string, fields: Record<string, string>): ReturnType<typeof sortBounce> {
  const machine = Object.entries({
    "Final-Recipient": "rfc822; halim@oakmail.example",
    ...fields,
  })
    .map(([name, value]) => `${name}: ${value}`)
    .join("\r\n");
  const written = `Reporting-MTA: dns; mx.copperwheel.example\r\n\r\n${machine}\r\n`;
  return sortBounce({
    split: splitMessage(new TextEncoder().encode("Subject: Undelivered\r\n\r\n")),
    ...{ returnPath: "", subject: "Undelivered Mail Returned to Sender" },
    // The library that reads mail puts the report below the text.
    text: `${text}\r\n\r\n${written}`,
    report: written,
  });
}

describe("words alone", () => {
  test.each([
    ["Undeliverable: Rehearsal", "It came back.", { sort: "temporary", gaveUp: true }],
    ["failure notice", "I'm giving up; this mail was delayed too long.", { gaveUp: true }],
    ["Mail delivery delayed", "It will be tried again for four days.", { sort: "not a bounce" }],
    ["Delivery status notification", "THIS IS A WARNING MESSAGE ONLY.", { sort: "not a bounce" }],
    ["Delivery problem", "Die Zustellung ist verzögert.", { sort: "not a bounce" }],
  ])("%s: %s", (subject, text, wanted) => {
    const split = splitMessage(new TextEncoder().encode(`Subject: ${subject}\r\n\r\n`));
    expect(sortBounce({ split, returnPath: "", subject, text, report: "" })).toMatchObject(wanted);
  });
});

describe("a report", () => {
  test("whose fields say nothing is read by its words for people, and never by its own fields", () => {
    const vague = { Action: "failed", Status: "5.0.0" };
    const said = report("Your mail for Halim came back.\r\nThe mailbox is full.\r\n", vague);
    expect(said).toMatchObject({ sort: "full", words: "The mailbox is full." });
    const none = report("It could not be delivered.", vague);
    expect(none.words).not.toMatch(/Status|Reporting/);
    const field = report("There is no such user here, says their server.", {
      ...vague,
      "Diagnostic-Code": "smtp; 550 5.0.0 error 17",
    });
    expect(field.sort).toBe("no mailbox");
  });

  test("of a sender that gave up is a failure, though each reason was for now", () => {
    const gaveUp = { Action: "failed", Status: "4.4.7" };
    expect(report("We tried for five days.", gaveUp)).toMatchObject({
      sort: "temporary",
      gaveUp: true,
    });
    const words = { "Diagnostic-Code": "smtp; 450 4.1.1 no such user here" };
    expect(report("We tried for five days.", { ...gaveUp, ...words }).sort).toBe("no mailbox");
  });

  test("that mail is late is no bounce, whatever it says", () => {
    for (const Status of ["4.4.1", "4.2.2", "5.1.1"]) {
      const late = { Action: "delayed", Status, "Diagnostic-Code": "smtp; user unknown" };
      expect(report("It will be tried again.", late).sort).toBe("not a bounce");
    }
  });
});
