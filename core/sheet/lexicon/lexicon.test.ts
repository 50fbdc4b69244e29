import { describe, expect, test } from "vitest";
import { guessLanguages } from "../columns/guessLanguages";
import { readTitle } from "../columns/readTitle";
import { splitTitle } from "../columns/splitTitle";
import { titlePoints } from "../columns/titlePoints";
import { ALL_MEANINGS } from "../meanings/allMeanings";
import { ALL_LANGUAGES } from "./allLanguages";
import { lexicon, makeLexicon } from "./lexicon";

/** What a title says most plainly, by itself. */
function said(title: string, language: string): string {
  const reading = readTitle({ title, group: "" }, new Map([[language, 1]]), lexicon());
  const [best] = ALL_MEANINGS.map((meaning) => ({
    id: meaning.id,
    points: titlePoints(meaning, reading),
  })).sort((a, b) => b.points - a.points);
  return `${best?.id ?? ""}${reading.slot === "" ? "" : ` ${reading.slot}`}`;
}

describe("titles", () => {
  test.each([
    ["child's e-mail", ["child", "e", "mail"]],
    ["Prénom de l'élève", ["prenom", "de", "l", "eleve"]],
    ["parentEmail2", ["parent", "email", "2"]],
    ["guardian_1_email.address", ["guardian", "1", "email", "address"]],
    ["Child #2", ["child", "2"]],
    ["HTMLTitle", ["html", "title"]],
    ["", []],
  ])("%j is taken apart", (title, words) => expect(splitTitle(title)).toEqual(words));

  test.each([
    ["en", "Which class is your child in?", "classes"],
    ["en", "Mother's mail", "guardian.address mother"],
    ["en", "Tutor group", "classes"],
    ["en", "Class teacher", "coach"],
    ["en", "Coach e-mail", "coach.address"],
    ["en", "Surnme", "student.surname"],
    ["en", "Date of birth", "private"],
    ["de", "Schülernachname", "student.surname"],
    ["de", "Elternmailadresse", "guardian.address"],
    ["de", "Klassenlehrerin", "coach"],
    ["de", "Schuelername", "student.name"],
    ["fr", "Nom et prénom de l'élève", "student.name"],
    ["fr", "Courriel du père", "guardian.address father"],
    ["es", "Correo electrónico de la madre", "guardian.address mother"],
    ["es", "Tutor del curso", "coach"],
    ["pt", "Encarregado de educação", "guardian.name"],
    ["it", "Cognome", "student.surname"],
    ["nl", "E-mail ouder 2", "guardian.address 2"],
    ["sv", "Vårdnadshavares e-post", "guardian.address"],
    ["da", "Fars mail", "guardian.address father"],
    ["fi", "Huoltajan sähköposti", "guardian.address"],
    ["pl", "Imię i nazwisko dziecka", "student.name"],
    ["cs", "E-mail zákonného zástupce", "guardian.address"],
    ["tr", "Velinin e-postası", "guardian.address"],
  ])("in %s %j says %s", (language, title, wanted) => expect(said(title, language)).toBe(wanted));

  test("the language is told from titles and names", () => {
    const most = (titles: string[], cells: string[] = []): string =>
      [...guessLanguages(titles, cells, lexicon())].sort((a, b) => b[1] - a[1])[0]?.[0] ?? "";
    expect(most(["Nombre", "Apellidos", "Curso"])).toBe("es");
    expect(most(["Nome", "Cognome", "Classe"])).toBe("it");
    expect(most(["Kvx", "Wuf"], ["wojciech", "zuzanna", "kacper"])).toBe("pl");
  });
});

describe("languages", () => {
  test.each(ALL_LANGUAGES.map((language) => [language.code, language] as const))(
    "%s has words for what every roster needs",
    (_, language) => {
      for (const concept of [
        "student",
        "guardian",
        "mother",
        "father",
        "staff",
        "name",
        "surname",
        "given",
        "class",
        "team",
        "level",
        "email",
        "phone",
        "birth",
        "health",
        "consent",
        "submitted",
      ] as const)
        expect(language.concepts[concept]?.trim(), concept).toBeTruthy();
      expect(language.given.split(/\s+/).length).toBeGreaterThan(60);
      expect(language.totals.trim()).not.toBe("");
    },
  );

  test("a language is one value; without it its words are unknown", () => {
    const english = makeLexicon(ALL_LANGUAGES.filter(({ code }) => code === "en"));
    const title = { title: "Huoltajan sähköposti", group: "" };
    expect(readTitle(title, new Map(), english).known).toBe(false);
    expect(readTitle(title, new Map(), lexicon()).known).toBe(true);
  });

  test("hostile titles are read in time in proportion to their length", () => {
    for (const title of ["a".repeat(100_000), "elternschüler".repeat(5_000), "e ".repeat(50_000)])
      expect(readTitle({ title, group: title }, new Map(), lexicon()).words).toBeLessThan(500);
  });
});
