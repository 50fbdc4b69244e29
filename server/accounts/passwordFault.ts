import { ZxcvbnFactory } from "@zxcvbn-ts/core";
import * as common from "@zxcvbn-ts/language-common";
import * as english from "@zxcvbn-ts/language-en";
import { fold } from "@amigo/core/text/fold";
import { LONGEST, SHORTEST } from "@amigo/core/access/passwordLength";
import { t } from "../texts/t";

/** From 0 to 4; 3 stands up to ten thousand guesses a second for years, which is what Argon2id lets pass. */
const STRONG = 3;

/** Made when the first password is judged: its lists take a while to be put in order. */
let checker: ZxcvbnFactory | undefined;

/**
 * What is wrong with a password, in a sentence; undefined where it will do. It is held against the passwords most used, words
 * and names, dates, keys that lie side by side, repetitions, and against whose it is.
 *
 * @param about words that say whose it is: name, address, house
 */
export function passwordFault(password: string, about: readonly string[]): string | undefined {
  if ([...password].length < SHORTEST)
    return t("accounts.aPasswordHasAtLeast", { least: SHORTEST });
  if (password.length > LONGEST) return t("accounts.aPasswordHasAtMost", { most: LONGEST });
  const found = about
    .flatMap((text) => fold(text).split(/[^\p{L}\p{N}]+/u))
    .filter((word) => word.length >= 4);
  // Without the words that say whose it is, it must be a password still.
  const rest = found.reduce(
    (text, word) => text.replaceAll(word, ""),
    fold(password).replace(/[^\p{L}\p{N}]/gu, ""),
  );
  checker ??= new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary },
    graphs: common.adjacencyGraphs,
  });
  const isOwn = rest.length < 6 && rest.length < password.length / 2;
  return !isOwn && checker.check(password, found).score >= STRONG
    ? undefined
    : t("accounts.thisPasswordIsEasyTo");
}
