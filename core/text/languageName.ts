/** Returns the name of a language in that language, `Español`, or in a reader's: `Spanish`. */
export function languageName(language: string, reader = language): string {
  const name = new Intl.DisplayNames([reader], { type: "language" }).of(language) ?? language;
  return `${name.charAt(0).toLocaleUpperCase(reader)}${name.slice(1)}`;
}
