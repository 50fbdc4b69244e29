import { cs } from "./cs";
import { da } from "./da";
import { de } from "./de";
import { en } from "./en";
import { es } from "./es";
import { fi } from "./fi";
import { fr } from "./fr";
import { it } from "./it";
import type { Language } from "./language";
import { nl } from "./nl";
import { pl } from "./pl";
import { pt } from "./pt";
import { sv } from "./sv";
import { tr } from "./tr";

/** Every language whose words Amigo knows. */
export const ALL_LANGUAGES: readonly Language[] = [
  en,
  de,
  fr,
  es,
  pt,
  it,
  nl,
  sv,
  da,
  fi,
  pl,
  cs,
  tr,
];
