const TIES =
  /^(?:grand|step|foster|god)?-?(?:mother|father|parents?|aunt|uncle|ma|pa|mum|dad|guardian|sister|brother|gran|granny|grandma|grandpa|nana|carer)$|^(?:oma|opa|tante|onkel|gro(?:ß|ss)(?:mutter|vater)|stief(?:mutter|vater)|grand-?mère|grand-?père|beau-?père|belle-?mère|oncle|abuel[ao]|t[ií][ao]|padrastro|madrastra|av[óô]|nonn[ao]|zi[ao]|stiefmoeder|stiefvader|grootmoeder|grootvader|mormor|morfar|farmor|farfar|bedste(?:mor|far)|iso(?:äiti|isä)|babcia|dziadek|babička|dědeček|büyükanne|dede|teyze|amca|hala|dayı)$/iu;

/** Whether a text names a family tie by itself: `grandmother`, `Oma`, `tía`. */
export function isTie(text: string): boolean {
  return TIES.test(text);
}
