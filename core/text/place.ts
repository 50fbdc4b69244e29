/** Whether a name is a time zone of the IANA data base that this machine knows. */
export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat("en", { timeZone: name });
    return name !== "";
  } catch {
    return false;
  }
}

/** The languages whose dates, names and sorting are offered, by BCP 47. */
export const LANGUAGES = "en de fr es pt it nl sv da nb fi pl cs tr uk ar".split(" ");

/** The countries by ISO 3166-1, with their names in English, sorted by these. */
export function countries(): { code: string; name: string }[] {
  const names = new Intl.DisplayNames("en", { type: "region", fallback: "none" });
  const letters = Array.from({ length: 26 }, (_, at) => String.fromCharCode(65 + at));
  return letters
    .flatMap((first) => letters.map((second) => `${first}${second}`))
    .filter((code) => !NO_COUNTRIES.has(code))
    .flatMap((code) => {
      const name = names.of(code);
      return name === undefined ? [] : [{ code, name }];
    })
    .sort((a, b) => a.name.localeCompare(b.name, "en"));
}

/** Codes that are no country of today: unions, reserved ones, and older codes of countries that have another by now. */
const NO_COUNTRIES = new Set(
  "AC AN BU CP CQ CS DD DG DY EA EU EZ FX HV IC NH NT QO QU RH SU TA TP UK UN VD XA XB XK YD YU ZR ZZ".split(
    " ",
  ),
);

/** The locale by which a house writes dates: its language as its country has it. */
export function localeOf({ language, country }: { language: string; country: string }): string {
  return country === "" ? (language === "en" ? "en-GB" : language) : `${language}-${country}`;
}

/** Countries where paper is Letter and not A4. */
const LETTER = new Set("US CA MX PH CL CO VE CR GT NI PA SV DO PR BO".split(" "));

/** The paper that printers of a country hold. */
export function paperOf(country: string): "A4" | "Letter" {
  return LETTER.has(country) ? "Letter" : "A4";
}
