import { table } from "./table";

/** How letters of Cyrillic are written in Latin ones where nothing tells the language. */
const USUAL = table(`
  а a б b в v г g д d е e ё e ж zh з z и i й y к k л l м m н n о o п p р r с s т t у u ф f х kh ц ts ч ch ш sh
  щ shch ъ - ы y ь - э e ю yu я ya є ye і i ї yi ґ g ў u ђ dj ј j љ lj њ nj ћ c џ dz ѕ dz ќ kj ѓ gj`);

interface Language {
  /** A text with one of these letters is in this language. */
  known: RegExp;
  letters: ReadonlyMap<string, string>;
  /** What is written otherwise at the beginning of a word. */
  first?: ReadonlyMap<string, string>;
}

/** The languages that their letters give away, the surest first. */
const LANGUAGES: readonly Language[] = [
  // Belarusian has і as Ukrainian does, but ў, ы and э besides.
  { known: /[ўыэё]/, letters: table("г g") },
  {
    // Resolution 55 of Ukraine's cabinet, 2010.
    known: /[іїєґ]/,
    letters: table("г h и y й i ї i є ie ю iu я ia"),
    first: table("й y ї yi є ye ю yu я ya"),
  },
  { known: /[ђјљњћџ]/, letters: table("ж z х h ц c ч c ш s") },
];

/** Returns a text in small letters with its Cyrillic ones written in Latin ones, by the language that they tell. */
export function withoutCyrillic(text: string): string {
  const language = LANGUAGES.find(({ known }) => known.test(text));
  return text
    .replace(language?.first === undefined ? /(?!)/ : /зг/g, "zgh")
    .replace(
      /(?<![\p{L}\p{M}'’ʼ])([\u0400-\u04ff])|[\u0400-\u04ff]/gu,
      (letter, first?: string) =>
        (first === undefined ? undefined : language?.first?.get(letter)) ??
        language?.letters.get(letter) ??
        USUAL.get(letter) ??
        letter,
    );
}
