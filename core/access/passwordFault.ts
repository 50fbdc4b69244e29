import { fold } from "../text/fold";

/** The fewest and most signs of a password. */
export const SHORTEST = 10;
export const LONGEST = 200;

/** Words that are tried first by whoever guesses. */
const GUESSED = [
  "password",
  "passwort",
  "12345",
  "qwert",
  "letmein",
  "welcome",
  "abc123",
  "iloveyou",
  "sunshine",
  "changeme",
];

/** What is wrong with a password, in a sentence; undefined where it will do. `about` are words that say whose it is: name, address, house. */
export function passwordFault(password: string, about: readonly string[]): string | undefined {
  if ([...password].length < SHORTEST)
    return `A password has at least ${SHORTEST} signs; three or four words with spaces are easy to keep in mind.`;
  if (password.length > LONGEST) return `A password has at most ${LONGEST} signs.`;
  if (new Set(password.toLowerCase()).size < 5)
    return "This password is the same few signs again and again. Take some words instead.";
  const bare = fold(password).replace(/[^\p{L}\p{N}]/gu, "");
  const known = [
    ...GUESSED,
    ...about
      .flatMap((text) => fold(text).split(/[^\p{L}\p{N}]+/u))
      .filter((word) => word.length >= 4),
  ];
  // What is left once everything that is guessed first is taken out must be a password still.
  const rest = known.reduce((text, word) => text.replaceAll(word, ""), bare);
  return rest.replace(/\d/g, "").length < 4 && rest.length < 6
    ? 'This password is made of words that are tried first: a name, the house, or "password". Take some other words.'
    : undefined;
}
