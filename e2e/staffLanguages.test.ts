import { join } from "node:path";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { englishTexts, textsOf } from "@amigo/language/testing/likeEnglish";
import { Key } from "selenium-webdriver";
import { Person, WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";
import { startStack, type Stack } from "./stack";

/** What is stored in the house's language: the names of its recipes, and the journal's sentences. */
const STORED = /(Guardians|Students) of each (class|team)|lists in step/;

/** English texts of the pages that no other language says alike, whole: without places, and of three words at least. */
function englishOnly(language: string): readonly string[] {
  const theirs = new Set([...textsOf(language).values(), ...textsOf(`${language}/staff`).values()]);
  return [...englishTexts]
    .filter(([id]) => id.startsWith("web.") || id.startsWith("core."))
    .map(([, text]) => text)
    .filter(
      (text) =>
        !/[{<']/.test(text) &&
        !STORED.test(text) &&
        text.split(" ").length > 2 &&
        !theirs.has(text),
    );
}
const ENGLISH = { de: englishOnly("de"), es: englishOnly("es") };

/** What of a text is still said in English. */
const englishOf = (text: string, language: "de" | "es"): string[] =>
  ENGLISH[language].filter((english) => text.includes(english));

/** What on a page is still said in English, and what doesn't fit or is found by axe-core. */
async function faultsOf(person: Person, language: "de" | "es"): Promise<string[]> {
  return [
    ...englishOf(await person.text(), language),
    ...(await person.misfits()),
    ...(await person.findings()),
  ];
}

describe("the first day of a German-speaking coordinator", () => {
  let stack: Stack;
  let greta: Person;
  beforeAll(async () => {
    stack = await startStack({ demo: false });
    greta = await Person.open(stack.url);
    await greta.reads("de-DE");
    await greta.go("/");
  });
  afterAll(async () => {
    await greta?.close();
    await stack?.close();
  });
  afterEach(async () => expect(await greta.errors()).toEqual([]));

  test("she sets up her school, in her browser's language", async () => {
    await greta.read("Ihre Schule einrichten");
    expect(await faultsOf(greta, "de")).toEqual([]);
    await greta.type("Name der Schule", "Kupferrad Zirkusschule");
    await greta.type("Innere Domain", "copperwheel.example");
    await greta.type("Ihr Name", "Greta Abara");
    await greta.type("Ihre E-Mail-Adresse", "greta@copperwheel.example");
    await greta.type("Passwort", "vier lange Wörter hier");
    await greta.click("button", "Einrichten und als Koordination anmelden");
    await greta.see("heading", "Übersicht");
    await greta.read("Listen entstehen aus Ihrer Stammliste");
    expect(await faultsOf(greta, "de")).toEqual([]);
  });

  test("she imports the roster, reviews what it changes, and brings the lists in step", async () => {
    await greta.go("/sources");
    await greta.read("Legen Sie hier die Stammliste ab");
    await greta.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
    await greta.see("button", "220 Kinder importieren");
    expect(await faultsOf(greta, "de")).toEqual([]);
    await greta.click("button", "220 Kinder importieren");
    await greta.see("button", "10 Listen abgleichen");
    expect(await faultsOf(greta, "de")).toEqual([]);
    await greta.click("button", "10 Listen abgleichen");
    await greta.read("Keine Runde ist offen");
    await greta.go("/");
    await greta.read("abgeglichen");
    expect(await faultsOf(greta, "de")).toEqual([]);
  });

  test("she is told what is wrong in her language, too", async () => {
    await greta.go("/sources");
    await greta.read("220 Zeilen, 2 beiseitegelegt");
    await greta.chooseFile(new URL("../docs/screenshots/board.png", import.meta.url).pathname);
    await greta.read("Diese Datei");
    expect(await faultsOf(greta, "de")).toEqual([]);
  });

  test("she writes a mail, and sees for how many it is", async () => {
    await greta.go("/mail/write");
    await greta.type("An", "Trapeze Two");
    await greta.see("option", "Trapeze Two");
    await greta.press(Key.ENTER);
    await greta.see("button", "Trapeze Two, Erziehungsberechtigte");
    await greta.type("Betreff", "Willkommen im Herbst");
    await greta.press(Key.TAB, "Wir freuen uns auf das Jahr.");
    await greta.see("button", "52 Adressen senden");
    expect(await faultsOf(greta, "de")).toEqual([]);
    await greta.click("button", "52 Adressen senden");
    await greta.see("heading", "Willkommen im Herbst");
    expect(await faultsOf(greta, "de")).toEqual([]);
  });
});

describe("the language of an account", () => {
  const house = openHouse();

  test("is chosen on its own page, and the pages are in it at once", async () => {
    const { person } = house;
    await beginWithRoster(person);
    await person.go("/account");
    await person.click("button", "Language");
    await person.click("option", "español");
    await person.see("heading", "Entrada en dos pasos");
    expect(await person.driver.executeScript("return document.documentElement.lang")).toBe("es");
    expect(await faultsOf(person, "es")).toEqual([]);
    await person.go("/");
    await person.see("heading", "Tablero");
  });

  test("is right on every page, wide and narrow", async () => {
    const { person } = house;
    const found: string[] = [];
    for (const [path, heading] of PAGES)
      for (const width of [1280, 360] as const) {
        await person.emulate(width, 800, "light");
        await person.go(path);
        await person.see("heading", heading);
        await person.driver.wait(async () => !(await person.text()).includes("Cargando"), WAIT);
        // Other words change nothing of what axe-core finds in a page, which every screen is looked at for elsewhere.
        const faults = [...englishOf(await person.text(), "es"), ...(await person.misfits())];
        found.push(...faults.map((fault) => `${path} at ${width}: ${fault}`));
      }
    expect(found).toEqual([]);
    await person.emulate(1280, 800, "light");
  }, 400_000);

  test("is that account's alone: another signs in at the same browser and reads theirs", async () => {
    const { person } = house;
    await person.driver.executeAsyncScript(
      "fetch('/api/sign-out', { method: 'POST' }).then(arguments[arguments.length - 1]);",
    );
    await person.go("/");
    await person.click("button", "Ravi Lindqvist");
    await person.see("heading", "Board");
    expect(await person.driver.executeScript("return document.documentElement.lang")).toBe("en");
  });
});

/** Pages of a house in use, by what their headings say in Spanish. */
const PAGES = [
  ["/", "Tablero"],
  ["/changes", "Cambios"],
  ["/changes/1", "Cambios"],
  ["/sources", "Fuentes"],
  ["/people", "Personas"],
  ["/lists", "Todas las listas"],
  ["/lists/new", "Crear una lista"],
  ["/lists/try", "Probar una dirección"],
  ["/mail", "Correo"],
  ["/mail?show=trace", "Correo"],
  ["/mail/write", "Escribir"],
  ["/mail/held", "Correo retenido"],
  ["/reach", "Alcance"],
  ["/dates", "Fechas"],
  ["/dates/new", "Crear una fecha"],
  ["/forms/new", "Crear un formulario"],
  ["/intakes", "Altas"],
  ["/requests", "Solicitudes"],
  ["/account", "Juno Abara"],
  ...["", "names", "rules", "people", "mail", "journal"].map(
    (show) => [`/house?tab=${show}`, "Ajustes"] as const,
  ),
] as const;
