import { fold } from "../text/fold";

/** What a column of a fixture list can hold. */
export const FIXTURE_COLUMNS = [
  "date",
  "time",
  "end",
  "title",
  "home",
  "away",
  "place",
  "team",
  "note",
] as const;
export type FixtureColumn = (typeof FIXTURE_COLUMNS)[number];

/** Words of titles in the languages of many offices, in small letters without marks. One word of a title is enough. */
const WORDS: Readonly<Record<FixtureColumn, readonly string[]>> = {
  date: ["date", "day", "datum", "tag", "fecha", "dia", "data", "jour", "dato", "tarih", "дата"],
  time: [
    ..."time start begin begins from kickoff hours uhrzeit zeit beginn hora inicio heure debut ora".split(
      " ",
    ),
    ..."godzina tijd saat час час".split(" "),
  ],
  end: ["end", "ends", "until", "to", "finish", "ende", "bis", "fin", "fine", "koniec", "einde"],
  title: [
    ..."opponent against event title what match game fixture subject name versus vs".split(" "),
    ..."gegner spiel veranstaltung titel rival partido evento adversaire rencontre evenement".split(
      " ",
    ),
    ..."avversario partita przeciwnik tegenstander".split(" "),
  ],
  home: ["home", "heim", "heimmannschaft", "domicile", "casa", "thuis", "gospodarze"],
  away: [
    "away",
    "visitors",
    "gast",
    "gastmannschaft",
    "visitante",
    "exterieur",
    "ospiti",
    "uit",
    "goscie",
  ],
  place: [
    ..."place venue where location ground hall pitch address ort platz halle spielort lugar".split(
      " ",
    ),
    ..."campo lieu salle stade luogo miejsce plaats".split(" "),
  ],
  team: [
    ..."team class group squad list side mannschaft klasse gruppe equipo clase grupo equipe".split(
      " ",
    ),
    ..."classe groupe squadra druzyna klasa ploeg".split(" "),
  ],
  note: [
    "note",
    "notes",
    "remark",
    "remarks",
    "comment",
    "comments",
    "details",
    "info",
    "bemerkung",
    "hinweis",
    "nota",
    "notas",
    "remarque",
    "uwagi",
  ],
};

/** Returns what a column holds by its title; undefined where that isn't told. */
export function columnOf(title: string): FixtureColumn | undefined {
  const words = fold(title).split(" ");
  const names = (column: FixtureColumn): boolean =>
    WORDS[column].some((word) => words.includes(word) || words.join("") === word);
  // "Home/Away" says where it is, and not who plays.
  if (words.length > 4 || (names("home") && names("away"))) return undefined;
  // "End time" is an end, "home team" one of two: what says more comes first.
  return (["end", "home", "away", "team", "title", "place", "note", "time", "date"] as const).find(
    names,
  );
}
