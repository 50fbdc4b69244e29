const TITLES =
  /^(?:mr|mrs|ms|miss|mx|dr|prof|coach|sir|herr|frau|hr|fr|m|mme|mlle|mm|sr|sra|srta|don|doña|prof[ea]?|dña|sig|sig\.ra|signora|dott|dhr|mevr|mw|juf|meester|pan|pani|bay|bayan|hoca|fru|rektor|ins|maestr[ao])\.?\s+\p{L}/iu;

/** Whether a text is a name with a title of address in front, as teachers are written: `Ms Hale`. */
export function isTitledName(text: string): boolean {
  return TITLES.test(text);
}
