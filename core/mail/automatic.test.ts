import { describe, expect, test } from "vitest";
import { isAutomaticSubject } from "./automaticSubject";
import { mailDate, receivedField } from "./receivedField";
import { robotReason } from "./robots";
import { splitMessage } from "./splitMessage";

const reason = (header: string, subject = "Hello") =>
  robotReason(
    splitMessage(new TextEncoder().encode(`${header}\r\n\r\n`)),
    "una@lettr.example",
    "lists.copperwheel.example",
    subject,
  );

describe("mail that a program wrote is known by its fields", () => {
  test.each([
    ["X-Auto-Response-Suppress: OOF, AutoReply"],
    ["Content-Type: multipart/report; report-type=disposition-notification"],
    ["Content-Type: multipart/report;\r\n report-type=delivery-status; boundary=x"],
    ["Content-Type: MULTIPART/REPORT; report-type=feedback-report"],
    ["Precedence: auto_reply"],
    ["X-Mail-Autoreply: 1"],
    ["Auto-Submitted: auto-replied (vacation)"],
  ])("%s", (header) => expect(reason(header)).toBeDefined());
  test.each([
    ["X-Auto-Response-Suppress: None"],
    ["Auto-Submitted: no"],
    ["Content-Type: multipart/mixed; boundary=report"],
    ["Precedence: first-class"],
  ])("%s is a person's", (header) => expect(reason(header)).toBeUndefined());
});

describe("an automatic answer is known by its subject", () => {
  test.each([
    ["Automatic reply: Rehearsal on Friday"],
    ["Auto-Reply: Rehearsal"],
    ["[Automatic reply] Rehearsal"],
    ["Out of Office Re: Rehearsal"],
    ["Automatische Antwort: Probe am Freitag"],
    ["Abwesenheitsnotiz: Probe"],
    ["Réponse automatique : Répétition"],
    ["Respuesta automática: Ensayo"],
    ["Odpowiedź automatyczna: Próba"],
    ["Otomatik yanıt: Prova"],
    ["Автоматична відповідь: Репетиція"],
    ["رد تلقائي: بروفة"],
    ["自动回复：排练"],
    ["Re\u0301ponse automatique: Répétition"],
  ])("%s", (subject) => expect(isAutomaticSubject(subject, false)).toBe(true));
  test.each([
    ["Abwesend: Ida am Montag (krank)"],
    ["Afwezig: Ida"],
    ["Poissa: Ida maanantaina"],
    ["Nieobecność: Ida"],
    ["Out of office: back on Monday"],
  ])("%s is one where it answers a mail, and a family's or a coach's else", (subject) => {
    expect(isAutomaticSubject(subject, true)).toBe(true);
    expect(isAutomaticSubject(subject, false)).toBe(false);
  });
  test("one that is only that, where it answers a mail", () => {
    expect(isAutomaticSubject("Out of office", true)).toBe(true);
    expect(isAutomaticSubject("Out of office", false)).toBe(false);
    expect(isAutomaticSubject("I'm out of office.", true)).toBe(true);
  });
  test.each([
    ["Absence of Ida on Monday"],
    ["Out of office next week: who takes Juggling One?"],
    ["Re: Automatic doors at the barn"],
    ["Abwesenheit von Ida am Montag"],
    ["Vacation dates: please answer"],
    [":"],
    [""],
  ])("%s is a person's", (subject) => expect(isAutomaticSubject(subject, true)).toBe(false));
});

describe("the trace field", () => {
  const HOP = {
    helo: "mx.lettr.example",
    ip: "198.51.100.7",
    by: "lists.copperwheel.example",
    protocol: "ESMTPS",
    tls: "version=TLSv1.3 cipher=TLS_AES_256_GCM_SHA384",
    id: "7F3KQ0M2XA",
    recipients: ["ml-wire@lists.copperwheel.example"],
    at: new Date("2026-11-03T07:04:09Z"),
  };
  test("says from where, by whom, how, for whom and when", () =>
    expect(receivedField(HOP)).toBe(
      [
        "Received: from mx.lettr.example ([198.51.100.7])",
        "\tby lists.copperwheel.example with ESMTPS id 7F3KQ0M2XA",
        "\t(version=TLSv1.3 cipher=TLS_AES_256_GCM_SHA384)",
        "\tfor <ml-wire@lists.copperwheel.example>;",
        "\tTue, 3 Nov 2026 07:04:09 +0000",
        "",
      ].join("\r\n"),
    ));
  test("names no recipient where there are two, and lets nothing break out of its line", () => {
    const field = receivedField({
      ...HOP,
      helo: "x\r\nBcc: y (z) ;",
      ip: "2001:db8::1",
      tls: "",
      recipients: ["a@b.example", "c@d.example"],
    });
    expect(field).not.toContain("for <");
    expect(field).toContain("from xBcc:yz ([IPv6:2001:db8::1])");
    expect(splitMessage(new TextEncoder().encode(`${field}\r\n`)).fields).toHaveLength(1);
    expect(mailDate(new Date(0))).toBe("Thu, 1 Jan 1970 00:00:00 +0000");
  });
});
