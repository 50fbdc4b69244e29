import { afterAll, beforeAll, expect, test } from "vitest";
import { startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { keepLanguage } from "../texts/familyLanguage";

let dates: DatesHouse;
beforeAll(async () => {
  dates = await startDatesHouse(
    [
      student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
      student(2, "Elm", "Otto", "Mill Loft", "Trapeze Two"),
      student(3, "Ash", "Ulla", "Mill Loft", "Trapeze Two"),
    ],
    "2027-05-20",
  );
  const { db } = dates.house.amigo.context;
  await keepLanguage(db, "oak@oakmail.example", "pl", "choice");
  await keepLanguage(db, "elm@oakmail.example", "ar", "form");
});
afterAll(() => dates.house.close());

test("each guest is invited in their own language, with the same date for their calendar", async () => {
  await dates.make({ title: "Picnic", answerUntil: "2027-05-10" });
  const [polish, arabic, english] = await Promise.all([
    dates.got("Zaproszenie: Picnic, 20 maj 2027", 1),
    dates.got("دعوة: Picnic", 1),
    dates.got("Invitation: Picnic", 1),
  ]);
  expect([...polish.keys(), ...arabic.keys(), ...english.keys()]).toEqual([
    "oak@oakmail.example",
    "elm@oakmail.example",
    "ash@oakmail.example",
  ]);
  const oak = polish.get("oak@oakmail.example");
  expect(oak?.mail.text).toContain("Czy Państwo przyjdą? Prosimy o odpowiedź do 10 maj 2027.");
  expect(oak?.mail.text).toContain("Tak, przyjdę: ");
  expect(oak?.mail.headers.get("content-language")).toBe("pl");
  expect(arabic.get("elm@oakmail.example")?.mail.text).toContain("هل ستحضرون؟");
  const uids = [polish, arabic, english].map(
    (mails) => [...mails.values()][0]?.event.getFirstPropertyValue("uid") as string,
  );
  expect(new Set(uids).size).toBe(1);
});

test("and answers in it, whatever browser the link is opened in", async () => {
  await dates.make({ title: "Show" });
  const token = (await dates.got("Zaproszenie: Show", 1)).get("oak@oakmail.example")?.token ?? "";
  const url = `${dates.house.url}/date/${token}`;
  const headers = { "Accept-Language": "de" };
  const shown = await (await fetch(url, { headers })).text();
  expect(shown).toContain('<html lang="pl" dir="ltr">');
  expect(shown).toContain("Ile osób przyjdzie?");
  const body = new URLSearchParams({ answer: "yes", people: "2" });
  const answered = await (await fetch(url, { method: "POST", body, headers })).text();
  expect(answered).toContain("Państwa odpowiedź na „Show”: Tak, przyjdę");
});
