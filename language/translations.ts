import esCore from "./es/core.json";
import esServer from "./es/server.json";
import frCore from "./fr/core.json";
import frServer from "./fr/server.json";
import deCore from "./de/core.json";
import deServer from "./de/server.json";
import plCore from "./pl/core.json";
import plServer from "./pl/server.json";
import trCore from "./tr/core.json";
import trServer from "./tr/server.json";
import arCore from "./ar/core.json";
import arServer from "./ar/server.json";
import ukCore from "./uk/core.json";
import ukServer from "./uk/server.json";
import deStaffCore from "./de/staff/core.json";
import deStaffServer from "./de/staff/server.json";
import esStaffCore from "./es/staff/core.json";
import esStaffServer from "./es/staff/server.json";
import { addLanguage } from "./texts";

/** What core and the server say to families in further languages; English has all texts. */
export const FAMILY_TEXTS = {
  es: { core: esCore, server: esServer },
  fr: { core: frCore, server: frServer },
  de: { core: deCore, server: deServer },
  pl: { core: plCore, server: plServer },
  tr: { core: trCore, server: trServer },
  ar: { core: arCore, server: arServer },
  uk: { core: ukCore, server: ukServer },
} as const;

/** What core and the server say to staff alone in further languages; families' texts belong to it, too. */
export const STAFF_TEXTS = {
  de: { core: deStaffCore, server: deStaffServer },
  es: { core: esStaffCore, server: esStaffServer },
} as const;

/** Lets core and the server speak these languages. */
export function addLanguages(): void {
  for (const [language, texts] of Object.entries(STAFF_TEXTS)) addLanguage(language, texts);
  for (const [language, texts] of Object.entries(FAMILY_TEXTS)) addLanguage(language, texts);
}
