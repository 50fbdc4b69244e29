import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { calendarMold } from "./calendarMold";
import type { CalendarDate } from "./calendarDate";
import { writeInvitation, type Invitation } from "./writeInvitation";

const when = {
  allDay: false,
  from: "2026-12-01T18:00",
  until: "2026-12-01T19:30",
  zone: "Europe/London",
} as const;
const date: CalendarDate = {
  ...{ uid: "one@lists.copperwheel.example", sequence: 0, title: "", text: "", place: "" },
  ...{ link: "", when, repeat: null, changes: [] },
};

/** An invitation for somebody, with their secret in two places. */
function invitationFor(address: string, token: string, words: string): string {
  const invitation: Invitation = {
    method: "REQUEST",
    date: { ...date, title: words, text: words },
    organiser: {
      name: "Trapeze Two",
      address: `trapeze+date.${token}@lists.copperwheel.example`,
    },
    guest: { name: "", address },
    files: [{ name: words, link: `https://amigo.example/date/${token}/files/1` }],
    now: new Date("2026-11-01T12:00:00Z"),
  };
  return writeInvitation(invitation);
}

describe("a calendar with marks", () => {
  test("filled in is what is written for each by itself, whatever the title and wherever lines fold", () => {
    const token = fc.stringMatching(/^[a-z0-9]{1,60}$/);
    const address = fc.constantFrom(
      "o@oakmail.example",
      "robin.oak+school@mailhaven.example",
      "jos\u00e9.\u0421\u043e\u0444\u0456\u044f@\u043f\u043e\u0448\u0442\u0430.example",
      `${"long".repeat(30)}@brightpost.example`,
    );
    const words = fc.string({ unit: "grapheme", maxLength: 200 });
    fc.assert(
      fc.property(words, address, token, (title, to, secret) => {
        const marks = ["markforthesecret", "markfortheaddress"];
        const fill = calendarMold(
          invitationFor("markfortheaddress", "markforthesecret", title),
          marks,
        );
        expect(fill([secret, to])).toBe(invitationFor(to, secret, title));
      }),
    );
  });

  test("takes values as they are, also those that look like a pattern", () => {
    expect(calendarMold("A:mark\r\nB:other\r\n", ["mark"])(["$&$1"])).toBe("A:$&$1\r\nB:other\r\n");
  });
});
