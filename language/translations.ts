import deCore from "./de/core.json";
import deServer from "./de/server.json";
import { addLanguage } from "./texts";

/** What core and the server say to families in further languages; English has all texts. */
export const FAMILY_TEXTS = {
  de: { core: deCore, server: deServer },
} as const;

/** Lets core and the server speak these languages. */
export function addFamilyLanguages(): void {
  for (const [language, texts] of Object.entries(FAMILY_TEXTS)) addLanguage(language, texts);
}
