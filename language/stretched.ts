const ACCENTED: Readonly<Record<string, string>> = Object.fromEntries(
  [...Array.from("AaCcEeGgIiLlNnOoRrSsTtUuYyZz")].map((letter, at) => [
    letter,
    Array.from("ÀàÇçÉéĜĝÎîĽľÑñÖöŘřŠšŤťÛûÝýŽž")[at] ?? letter,
  ]),
);

/**
 * Spells words so that developers see where they come from: with accents, and a third longer, as other languages are. What is
 * shown without accents is in no catalogue of the pages, and what is cut off has too little room for another language.
 */
export function stretched(words: string): string {
  const letters = words.match(/\p{L}/gu)?.length ?? 0;
  const spelled = Array.from(words, (sign) => ACCENTED[sign] ?? sign).join("");
  const end = /\s*$/.exec(spelled)?.[0] ?? "";
  return `${spelled.slice(0, spelled.length - end.length)}${"~".repeat(Math.ceil(letters / 3))}${end}`;
}
